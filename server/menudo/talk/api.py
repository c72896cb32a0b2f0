"""Routes for what people say at a post, and what they ask of each other."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.problems import ERRORS
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.posts.actions.watch import watch
from menudo.posts.reads import post as one_post
from menudo.talk import reads, schemas
from menudo.talk.actions import say, tasks

router = Router(tags=["talk"])
_POST = "/brands/{brand}/posts/{id}"


@router.get(f"{_POST}/talk", response={200: schemas.TalkOut, **ERRORS}, operation_id="talk")
def talk(request: HttpRequest, brand: str, id: int) -> schemas.TalkOut:
    """Remarks in order, open tasks, who watches."""
    place = here(request, brand)
    return reads.talk(place, one_post(place, id))


@router.post(f"{_POST}/remarks", response={201: schemas.RemarkOut, **ERRORS}, operation_id="remark")
def add(request: HttpRequest, brand: str, id: int, data: schemas.RemarkIn) -> Status[schemas.RemarkOut]:
    """Say something; @ and a person's whole name tells them."""
    place = here(request, brand)
    on = say.On(data.network, data.profile, data.field)
    return Status(201, reads.remark_out(say.say(place, one_post(place, id), data.text, on, data.shared), place.user.pk))


@router.put(f"{_POST}/remarks/{{remark}}", response={200: schemas.RemarkOut, **ERRORS}, operation_id="changeRemark")
def change(request: HttpRequest, brand: str, id: int, remark: int, data: schemas.WordsIn) -> schemas.RemarkOut:
    """Other words for one's own remark."""
    place = here(request, brand)
    return reads.remark_out(say.change(place, one_post(place, id), remark, data.text), place.user.pk)


@router.delete(f"{_POST}/remarks/{{remark}}", response={204: None, **ERRORS}, operation_id="takeBackRemark")
def take_back(request: HttpRequest, brand: str, id: int, remark: int) -> Status[None]:
    """Take one's own remark back."""
    place = here(request, brand)
    say.take_back(place, one_post(place, id), remark)
    return Status(204, None)


@router.post(
    f"{_POST}/remarks/{{remark}}/settled", response={200: schemas.RemarkOut, **ERRORS}, operation_id="settleRemark"
)
def settle(request: HttpRequest, brand: str, id: int, remark: int, data: schemas.SettledIn) -> schemas.RemarkOut:
    """Say that a remark is dealt with, or after all not."""
    place = here(request, brand)
    return reads.remark_out(say.settle(place, one_post(place, id), remark, data.settled), place.user.pk)


@router.post(f"{_POST}/tasks", response={200: schemas.TalkOut, **ERRORS}, operation_id="assign")
def assign(request: HttpRequest, brand: str, id: int, data: schemas.TaskIn) -> schemas.TalkOut:
    """Ask somebody to see to the post."""
    place = here(request, brand, May.WRITE)
    post = one_post(place, id)
    tasks.assign(place, post, data.user, data.words, data.wall)
    return reads.talk(place, post)


@router.post(f"{_POST}/tasks/{{task}}/done", response={200: schemas.TalkOut, **ERRORS}, operation_id="taskDone")
def task_done(request: HttpRequest, brand: str, id: int, task: int) -> schemas.TalkOut:
    """It is seen to."""
    place = here(request, brand)
    post = one_post(place, id)
    tasks.done(place, post, task)
    return reads.talk(place, post)


@router.put(f"{_POST}/watch", response={200: schemas.TalkOut, **ERRORS}, operation_id="watch")
def set_watch(request: HttpRequest, brand: str, id: int, data: schemas.WatchIn) -> schemas.TalkOut:
    """Be told of what happens to the post, or no more."""
    place = here(request, brand)
    post = one_post(place, id)
    watch(place, post, data.on)
    return reads.talk(place, post)
