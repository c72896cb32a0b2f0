"""Routes for what people say at a post, and what they ask of each other."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.posts.actions.watch import set_watch
from menudo.posts.queries import post_of as one_post
from menudo.talk import queries, schemas
from menudo.talk.actions import change_remark, change_task

router = Router(tags=["talk"])
_POST = "/brands/{brand}/posts/{post_id}"


@router.get(f"{_POST}/talk", response=schemas.TalkOut, operation_id="talk")
def get_talk(request: HttpRequest, brand: str, post_id: int) -> schemas.TalkOut:
    """Remarks in order, open tasks, who watches."""
    context = brand_context(request, brand)
    return queries.post_talk(context, one_post(context, post_id))


@router.post(f"{_POST}/remarks", response={201: schemas.RemarkOut}, operation_id="createRemark")
def create_remark(request: HttpRequest, brand: str, post_id: int, data: schemas.RemarkIn) -> Status[schemas.RemarkOut]:
    """Say something; @ and a person's whole name tells them."""
    context = brand_context(request, brand)
    on = change_remark.RemarkTarget(data.network, data.profile, data.field)
    return Status(
        201,
        queries.remark_out(
            change_remark.add_remark(context, one_post(context, post_id), data.text, on, data.shared), context.user.pk
        ),
    )


@router.put(f"{_POST}/remarks/{{remark_id}}", response=schemas.RemarkOut, operation_id="updateRemark")
def update_remark(
    request: HttpRequest, brand: str, post_id: int, remark_id: int, data: schemas.RemarkTextIn
) -> schemas.RemarkOut:
    """Other words for one's own remark."""
    context = brand_context(request, brand)
    return queries.remark_out(
        change_remark.edit_remark(context, one_post(context, post_id), remark_id, data.text), context.user.pk
    )


@router.delete(f"{_POST}/remarks/{{remark_id}}", response={204: None}, operation_id="deleteRemark")
def destroy_remark(request: HttpRequest, brand: str, post_id: int, remark_id: int) -> Status[None]:
    """Take one's own remark back."""
    context = brand_context(request, brand)
    change_remark.delete_remark(context, one_post(context, post_id), remark_id)
    return Status(204, None)


@router.post(f"{_POST}/remarks/{{remark_id}}/resolved", response=schemas.RemarkOut, operation_id="resolveRemark")
def update_resolution(
    request: HttpRequest, brand: str, post_id: int, remark_id: int, data: schemas.ResolvedIn
) -> schemas.RemarkOut:
    """Say that a remark is dealt with, or after all not."""
    context = brand_context(request, brand)
    return queries.remark_out(
        change_remark.resolve_remark(context, one_post(context, post_id), remark_id, data.resolved), context.user.pk
    )


@router.post(f"{_POST}/tasks", response=schemas.TalkOut, operation_id="assignTask")
def create_task(request: HttpRequest, brand: str, post_id: int, data: schemas.TaskIn) -> schemas.TalkOut:
    """Ask somebody to see to the post."""
    context = brand_context(request, brand, Capability.WRITE)
    post = one_post(context, post_id)
    change_task.assign_task(context, post, data.user, data.summary, data.due_wall_time)
    return queries.post_talk(context, post)


@router.post(f"{_POST}/tasks/{{task_id}}/done", response=schemas.TalkOut, operation_id="completeTask")
def destroy_task(request: HttpRequest, brand: str, post_id: int, task_id: int) -> schemas.TalkOut:
    """It is seen to."""
    context = brand_context(request, brand)
    post = one_post(context, post_id)
    change_task.complete_task(context, post, task_id)
    return queries.post_talk(context, post)


@router.put(f"{_POST}/watch", response=schemas.TalkOut, operation_id="watch")
def update_watch(request: HttpRequest, brand: str, post_id: int, data: schemas.WatchIn) -> schemas.TalkOut:
    """Be told of what happens to the post, or no more."""
    context = brand_context(request, brand)
    post = one_post(context, post_id)
    set_watch(context, post, data.on)
    return queries.post_talk(context, post)
