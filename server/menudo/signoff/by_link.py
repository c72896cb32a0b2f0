"""Routes for a client's link: for browsers that have no account."""

from collections.abc import Iterable

from django.http import HttpRequest, HttpResponseBase
from ninja import Router

from menudo.base import clock
from menudo.base.limits import count
from menudo.base.problems import ERRORS, Invalid, NotFound
from menudo.library.models import Asset, Use
from menudo.library.pictures import picture_of
from menudo.posts.models import Post
from menudo.signoff import reading, schemas
from menudo.signoff.actions import answer
from menudo.signoff.actions.links import open_link
from menudo.signoff.models import SignLink
from menudo.signoff.signers import Signer, of_link
from menudo.talk.actions.say import On, fit, put_remark
from menudo_core.text.clean import unusable

router = Router(tags=["sign by link"])


def _link(request: HttpRequest, token: str) -> SignLink:
    count(request, "sign_link")
    return open_link(token)


def _signer(request: HttpRequest, token: str, name: str) -> Signer:
    if bad := unusable(name):
        raise Invalid.at("/name", bad)
    return of_link(_link(request, token), name)


@router.get("/sign/{token}", response={200: schemas.ToSignOut, **ERRORS}, operation_id="signPage", auth=None)
def page(request: HttpRequest, token: str) -> schemas.ToSignOut:
    """Every post that waits on the client, as followers will see it."""
    link = _link(request, token)
    SignLink.objects.filter(pk=link.pk).update(seen=clock.now())
    return reading.to_sign(of_link(link), ends=link.ends)


@router.post(
    "/sign/{token}/posts/{id}/agree", response={200: schemas.ToSignOut, **ERRORS}, operation_id="agreeByLink", auth=None
)
def agree(request: HttpRequest, token: str, id: int, data: schemas.LinkAgreeIn) -> schemas.ToSignOut:
    """Agree to a post in its revision, or with a small change where the link allows it. What still waits."""
    signer = _signer(request, token, data.name)
    changes = [answer.Change(c.network, c.profile, c.text) for c in data.changes]
    answer.agree(signer, _shown(signer, id), data.revision, data.deliveries, changes)
    return reading.to_sign(signer)


@router.post(
    "/sign/{token}/agree", response={200: schemas.AnsweredOut, **ERRORS}, operation_id="agreeToAllByLink", auth=None
)
def agree_all(request: HttpRequest, token: str, data: schemas.LinkAllIn) -> dict:
    """Agree to many posts at once."""
    signer = _signer(request, token, data.name)
    seen = _waiting(signer)
    done, left = answer.agree_to_all(signer, {p.id: p.revision for p in data.posts if p.id in seen})
    return {"done": done, "left": [{"post": post, "words": words} for post, words in left]}


@router.post(
    "/sign/{token}/posts/{id}/send-back",
    response={200: schemas.ToSignOut, **ERRORS},
    operation_id="sendBackByLink",
    auth=None,
)
def send_back(request: HttpRequest, token: str, id: int, data: schemas.LinkSendBackIn) -> schemas.ToSignOut:
    """Ask for a change, and say which."""
    signer = _signer(request, token, data.name)
    on = On(data.network, data.profile, data.field)
    answer.send_back(signer, _shown(signer, id), data.revision, data.words, on, data.deliveries)
    return reading.to_sign(signer)


@router.post(
    "/sign/{token}/posts/{id}/remarks",
    response={200: schemas.ToSignOut, **ERRORS},
    operation_id="remarkByLink",
    auth=None,
)
def remark(request: HttpRequest, token: str, id: int, data: schemas.LinkRemarkIn) -> schemas.ToSignOut:
    """Say something at a post without sending it back."""
    signer = _signer(request, token, data.name)
    post = Post.objects.get(pk=_shown(signer, id))
    put_remark(signer.brand, post, None, signer.name, fit(data.text), On(data.network, data.profile, data.field))
    return reading.to_sign(signer)


def _waiting(signer: Signer) -> set[int]:
    return {post.post for post in reading.to_sign(signer).posts}


def _shown(signer: Signer, id: int) -> int:
    """A post that the link shows. Raises NotFound for any other."""
    if not reading.to_sign(signer, only=[id]).posts:
        raise NotFound("This post isn't waiting for you any more.")
    return id


def media(request: HttpRequest, token: str, id: int, part: str) -> HttpResponseBase:
    """A picture of a post that the link shows; see library.pictures. Raises NotFound for any other."""
    count(request, "sign_media")
    signer = of_link(open_link(token))
    using = Use.objects.filter(asset=id).values_list("post_id", flat=True)
    if id not in set(_assets(reading.to_sign(signer, only=list(using)))):
        raise NotFound()
    found = Asset.objects.filter(brand=signer.brand, pk=id).first()
    if found is None:
        raise NotFound()
    return picture_of(request, found, part)


def _assets(out: schemas.ToSignOut) -> Iterable[int]:
    for post in out.posts:
        for column in post.columns:
            proof = column.column.proof
            for piece in (piece for row in proof.rows for piece in row):
                yield piece.asset
                if piece.cover:
                    yield piece.cover
            if proof.card and proof.card.picture:
                yield proof.card.picture
