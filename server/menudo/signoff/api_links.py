"""Routes for a client's link: for browsers that have no account."""

from collections.abc import Iterable

from django.http import HttpRequest, HttpResponseBase
from ninja import Router

from menudo.base import clock
from menudo.base.limits import count_attempt
from menudo.base.open_routes import open_to_all
from menudo.base.problems import InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.library.models import Asset, Use
from menudo.library.pictures import picture_response
from menudo.posts.models import Post
from menudo.signoff import queries, schemas
from menudo.signoff.actions import answer_signoff
from menudo.signoff.actions.create_link import open_link
from menudo.signoff.models import SignLink
from menudo.signoff.signers import Signer, signer_of_link
from menudo.talk.actions.change_remark import RemarkTarget, save_remark, validate_text

router = Router(tags=["sign by link"])


def _open_link(request: HttpRequest, token: str) -> SignLink:
    count_attempt(request, "sign_link")
    return open_link(token)


def _signer_of(request: HttpRequest, token: str, name: str) -> Signer:
    if bad := storage_refusal(name):
        raise InvalidError.at("/name", bad)
    return signer_of_link(_open_link(request, token), name)


@router.get("/sign/{token}", response=schemas.PendingOut, operation_id="signPage", auth=open_to_all)
def get_page(request: HttpRequest, token: str) -> schemas.PendingOut:
    """Every post that waits on the client, as followers will see it."""
    link = _open_link(request, token)
    SignLink.objects.filter(pk=link.pk).update(last_opened_at=clock.now())
    return queries.pending_signoffs(signer_of_link(link), ends=link.expires_at)


@router.post(
    "/sign/{token}/posts/{post_id}/approve",
    response=schemas.PendingOut,
    operation_id="approveByLink",
    auth=open_to_all,
)
def approve_by_link(request: HttpRequest, token: str, post_id: int, data: schemas.LinkApproveIn) -> schemas.PendingOut:
    """Agree to a post in its revision, or with a small change where the link allows it. What still waits."""
    signer = _signer_of(request, token, data.name)
    changes = [answer_signoff.TextChange(c.network, c.profile, c.text) for c in data.changes]
    answer_signoff.approve(signer, _require_shown(signer, post_id), data.revision, data.deliveries, changes)
    return queries.pending_signoffs(signer)


@router.post("/sign/{token}/approve", response=schemas.AnsweredOut, operation_id="approveAllByLink", auth=open_to_all)
def approve_all_by_link(request: HttpRequest, token: str, data: schemas.LinkApproveAllIn) -> schemas.AnsweredOut:
    """Agree to many posts at once."""
    signer = _signer_of(request, token, data.name)
    seen = _pending_posts(signer)
    done, left = answer_signoff.approve_all(signer, {p.id: p.revision for p in data.posts if p.id in seen})
    return schemas.AnsweredOut(done=done, left=[schemas.SkippedPost(post=post, reason=words) for post, words in left])


@router.post(
    "/sign/{token}/posts/{post_id}/send-back",
    response=schemas.PendingOut,
    operation_id="sendBackByLink",
    auth=open_to_all,
)
def send_back_by_link(
    request: HttpRequest, token: str, post_id: int, data: schemas.LinkSendBackIn
) -> schemas.PendingOut:
    """Ask for a change, and say which."""
    signer = _signer_of(request, token, data.name)
    on = RemarkTarget(data.network, data.profile, data.field)
    answer_signoff.send_back(signer, _require_shown(signer, post_id), data.revision, data.words, on, data.deliveries)
    return queries.pending_signoffs(signer)


@router.post(
    "/sign/{token}/posts/{post_id}/remarks",
    response=schemas.PendingOut,
    operation_id="remarkByLink",
    auth=open_to_all,
)
def add_remark(request: HttpRequest, token: str, post_id: int, data: schemas.LinkRemarkIn) -> schemas.PendingOut:
    """Say something at a post without sending it back."""
    signer = _signer_of(request, token, data.name)
    post = Post.objects.get(pk=_require_shown(signer, post_id))
    save_remark(
        signer.brand,
        post,
        None,
        signer.label,
        validate_text(data.text),
        RemarkTarget(data.network, data.profile, data.field),
    )
    return queries.pending_signoffs(signer)


def _pending_posts(signer: Signer) -> set[int]:
    return {post.post for post in queries.pending_signoffs(signer).posts}


def _require_shown(signer: Signer, post_id: int) -> int:
    """A post that the link shows. Raises NotFoundError for any other."""
    if not queries.pending_signoffs(signer, only=[post_id]).posts:
        raise NotFoundError(say("signoff.not_waiting"))
    return post_id


def serve_media(request: HttpRequest, token: str, asset_id: int, part: str) -> HttpResponseBase:
    """A picture of a post that the link shows; see library.pictures. Raises NotFoundError for any other."""
    count_attempt(request, "sign_media")
    signer = signer_of_link(open_link(token))
    using = Use.objects.filter(asset=asset_id).values_list("post_id", flat=True)
    if asset_id not in set(_asset_ids(queries.pending_signoffs(signer, only=list(using)))):
        raise NotFoundError()
    found = Asset.objects.filter(brand=signer.brand, pk=asset_id).first()
    if found is None:
        raise NotFoundError()
    return picture_response(request, found, part)


def _asset_ids(out: schemas.PendingOut) -> Iterable[int]:
    for post in out.posts:
        for column in post.columns:
            proof = column.column.proof
            for piece in (piece for row in proof.rows for piece in row):
                yield piece.asset
                if piece.cover:
                    yield piece.cover
            if proof.card and proof.card.picture:
                yield proof.card.picture
