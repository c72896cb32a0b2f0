"""Routes for sign-off, for the people of a brand."""

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.people.capabilities import May
from menudo.people.here import Here, here
from menudo.posts import reads
from menudo.posts.models import Post, SignRule
from menudo.posts.schemas import PostOut
from menudo.profiles.sheets import sheets_of
from menudo.signoff import reading, schemas
from menudo.signoff.actions import answer, links
from menudo.signoff.actions.keep_rules import keep_rules, try_rules
from menudo.signoff.actions.put_up import put_up, withdraw
from menudo.signoff.models import SignLink
from menudo.signoff.signers import Signers, of_person
from menudo.talk.actions.say import On
from menudo_core.signoff.says import kinds

router = Router(tags=["signoff"])
_POST = "/brands/{brand}/posts/{id}"


@router.get("/brands/{brand}/sign-rules", response={200: schemas.RulesOut, **ERRORS}, operation_id="signRules")
def rules(request: HttpRequest, brand: str) -> dict:
    """The brand's rules of sign-off, and who can be named in them."""
    return _rules(here(request, brand))


@router.put("/brands/{brand}/sign-rules", response={200: schemas.RulesOut, **ERRORS}, operation_id="keepSignRules")
def set_rules(request: HttpRequest, brand: str, data: schemas.RulesIn) -> dict:
    """Keep the rules. What is open is looked at again at once."""
    place = here(request, brand, May.MANAGE_PEOPLE)
    keep_rules(place, data)
    place.brand.refresh_from_db()
    return _rules(place)


@router.post(
    "/brands/{brand}/sign-rules/try", response={200: schemas.RulesEffect, **ERRORS}, operation_id="trySignRules"
)
def try_them(request: HttpRequest, brand: str, data: schemas.RulesIn) -> dict:
    """What keeping these rules would do to what is planned. Nothing is kept."""
    held, free = try_rules(here(request, brand, May.MANAGE_PEOPLE), data)
    return {"held": held, "free": free}


def _rules(place: Here) -> dict:
    return {
        "needed": place.brand.needs_signoff,
        "moving_asks": place.brand.moving_asks,
        "earlier_stands": place.brand.earlier_stands,
        "rules": list(SignRule.objects.filter(brand=place.brand).values()),
        "signers": [{"key": key, "name": name} for key, name in Signers.of(place.brand).names.items()],
        "kinds": kinds(sheets_of(place.brand.pk).values()),
    }


@router.get("/brands/{brand}/to-sign", response={200: schemas.ToSignOut, **ERRORS}, operation_id="toSign")
def to_sign(request: HttpRequest, brand: str, everyone: bool = False) -> schemas.ToSignOut:
    """Everything that waits on me to sign off, with its proofs; `everyone`: on others too."""
    return reading.to_sign(of_person(here(request, brand, May.SIGN_OFF)), everyone)


@router.post("/brands/{brand}/put-up", response={200: schemas.AnsweredOut, **ERRORS}, operation_id="putUp")
def put_up_posts(request: HttpRequest, brand: str, data: schemas.PostsIn) -> dict:
    """Put posts up for sign-off, one or many."""
    done, left = put_up(here(request, brand, May.WRITE), [(p.id, p.revision) for p in data.posts])
    return _done(done, left)


@router.post("/brands/{brand}/agree", response={200: schemas.AnsweredOut, **ERRORS}, operation_id="agreeToAll")
def agree_to_all(request: HttpRequest, brand: str, data: schemas.PostsIn) -> dict:
    """Agree to many posts as they stand, a whole week for instance."""
    signer = of_person(here(request, brand, May.SIGN_OFF))
    return _done(*answer.agree_to_all(signer, {p.id: p.revision for p in data.posts}))


def _done(done: int, left: list[tuple[int, str]]) -> dict:
    return {"done": done, "left": [{"post": post, "words": words} for post, words in left]}


@router.get(f"{_POST}/signing", response={200: schemas.SigningOut, **ERRORS}, operation_id="signing")
def signing(request: HttpRequest, brand: str, id: int) -> schemas.SigningOut:
    """Where a post's sign-off stands: who is asked, who agreed, what has changed since."""
    place = here(request, brand)
    return reading.signing(place, reads.post(place, id))


def _tagged(response: HttpResponse, post: Post) -> PostOut:
    response["ETag"] = f'"{post.revision}"'
    return reads.post_out(post)


@router.post(f"{_POST}/agree", response={200: PostOut, **ERRORS}, operation_id="agreeToPost")
def agree_to(
    request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.AgreeIn | None = None
) -> PostOut:
    """Agree to a post as it stands, or with a small change of its texts (If-Match)."""
    place = here(request, brand, May.SIGN_OFF)
    said = data or schemas.AgreeIn()
    changes = [answer.Change(c.network, c.profile, c.text) for c in said.changes]
    post = reads.post(place, id)
    return _tagged(response, answer.agree(of_person(place), post.pk, began_from(request), said.deliveries, changes))


@router.post(f"{_POST}/send-back", response={200: PostOut, **ERRORS}, operation_id="sendBack")
def send_back(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.SendBackIn) -> PostOut:
    """Ask for a change, and say which (If-Match)."""
    place = here(request, brand, May.SIGN_OFF)
    post, on = reads.post(place, id), On(data.network, data.profile, data.field)
    return _tagged(
        response, answer.send_back(of_person(place), post.pk, began_from(request), data.words, on, data.deliveries)
    )


@router.post(f"{_POST}/withdraw", response={200: PostOut, **ERRORS}, operation_id="withdrawPost")
def take_back(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> PostOut:
    """Take a post back from sign-off: it is a draft again (If-Match)."""
    place = here(request, brand, May.WRITE)
    return _tagged(response, withdraw(place, reads.post(place, id), began_from(request)))


@router.get("/brands/{brand}/sign-links", response={200: list[schemas.SignLinkOut], **ERRORS}, operation_id="signLinks")
def all_links(request: HttpRequest, brand: str) -> list[dict]:
    """The links with which clients sign off."""
    place = here(request, brand, May.MANAGE_PEOPLE)
    found = SignLink.objects.filter(brand=place.brand, revoked=None, ends__gt=clock.now()).select_related("user")
    return [_link(link) for link in found.order_by("-pk")]


@router.post("/brands/{brand}/sign-links", response={201: schemas.SignLinkMade, **ERRORS}, operation_id="offerSignLink")
def offer(request: HttpRequest, brand: str, data: schemas.SignLinkIn) -> Status[dict]:
    """Make a client's link. Its address is told this once."""
    place = here(request, brand, May.MANAGE_PEOPLE)
    link, token = links.offer(place, data.called, data.user, data.profiles, data.may_edit, data.days)
    return Status(201, {"link": _link(link), "address": links.address(token)})


@router.delete("/brands/{brand}/sign-links/{id}", response={204: None, **ERRORS}, operation_id="revokeSignLink")
def revoke(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Take a client's link back."""
    links.revoke(here(request, brand, May.MANAGE_PEOPLE), id)
    return Status(204, None)


def _link(link: SignLink) -> dict:
    return {
        "id": link.pk, "called": link.called, "answers_for": link.user.name if link.user else "", "profiles": link.profiles,
        "may_edit": link.may_edit, "ends": link.ends, "seen": link.seen,
    }  # fmt: skip
