"""Routes for sign-off, for the people of a brand."""

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base import clock
from menudo.base.revisions import if_match_revision
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context
from menudo.posts.models import Post
from menudo.posts.queries import post_of, post_out
from menudo.posts.schemas import PostOut
from menudo.profiles.sheets import sheets_of
from menudo.signoff import queries, schemas
from menudo.signoff.actions import answer_signoff, create_link
from menudo.signoff.actions.request_signoff import request_signoff, withdraw_request
from menudo.signoff.actions.save_rules import save_rules
from menudo.signoff.actions.simulate_rules import simulate_rules
from menudo.signoff.models import SignLink, SignRule
from menudo.signoff.signers import Signers, signer_of_person
from menudo.talk.actions.change_remark import RemarkTarget
from menudo_core.signoff.fingerprint import post_kinds

router = Router(tags=["signoff"])
_POST = "/brands/{brand}/posts/{post_id}"


@router.get("/brands/{brand}/sign-rules", response=schemas.RulesOut, operation_id="signRules")
def get_rules(request: HttpRequest, brand: str) -> schemas.RulesOut:
    """The brand's rules of sign-off, and who can be named in them."""
    return _rules_out(brand_context(request, brand))


@router.put("/brands/{brand}/sign-rules", response=schemas.RulesOut, operation_id="saveSignRules")
def update_rules(request: HttpRequest, brand: str, data: schemas.RulesIn) -> schemas.RulesOut:
    """Keep the rules. What is open is looked at again at once."""
    context = brand_context(request, brand, Capability.MANAGE_PEOPLE)
    save_rules(context, data)
    context.brand.refresh_from_db()
    return _rules_out(context)


@router.post("/brands/{brand}/sign-rules/preview", response=schemas.RulesEffect, operation_id="previewSignRules")
def preview_rules(request: HttpRequest, brand: str, data: schemas.RulesIn) -> schemas.RulesEffect:
    """What keeping these rules would do to what is planned. Nothing is kept."""
    return simulate_rules(brand_context(request, brand, Capability.MANAGE_PEOPLE), data)


def _rules_out(context: BrandContext) -> schemas.RulesOut:
    return schemas.RulesOut(
        needed=context.brand.needs_signoff,
        signoff_on_move=context.brand.signoff_on_move,
        earlier_signoff_counts=context.brand.earlier_signoff_counts,
        rules=[schemas.RuleOut.from_orm(rule) for rule in SignRule.objects.filter(brand=context.brand)],
        signers=[schemas.SignerOut(key=key, name=name) for key, name in Signers.for_brand(context.brand).names.items()],
        kinds=post_kinds(sheets_of(context.brand.pk).values()),
    )


@router.get("/brands/{brand}/signoffs", response=schemas.PendingOut, operation_id="pendingSignoffs")
def list_pending(request: HttpRequest, brand: str, everyone: bool = False) -> schemas.PendingOut:
    """Everything that waits on me to sign off, with its proofs; `everyone`: on others too."""
    return queries.pending_signoffs(signer_of_person(brand_context(request, brand, Capability.SIGN_OFF)), everyone)


@router.post("/brands/{brand}/signoff-requests", response=schemas.AnsweredOut, operation_id="requestSignoff")
def create_requests(request: HttpRequest, brand: str, data: schemas.PostsIn) -> schemas.AnsweredOut:
    """Put posts up for sign-off, one or many."""
    done, left = request_signoff(
        brand_context(request, brand, Capability.WRITE), [(p.id, p.revision) for p in data.posts]
    )
    return _answered_out(done, left)


@router.post("/brands/{brand}/approve", response=schemas.AnsweredOut, operation_id="approveAll")
def approve_many(request: HttpRequest, brand: str, data: schemas.PostsIn) -> schemas.AnsweredOut:
    """Agree to many posts as they stand, a whole week for instance."""
    signer = signer_of_person(brand_context(request, brand, Capability.SIGN_OFF))
    return _answered_out(*answer_signoff.approve_all(signer, {p.id: p.revision for p in data.posts}))


def _answered_out(done: int, left: list[tuple[int, str]]) -> schemas.AnsweredOut:
    return schemas.AnsweredOut(done=done, left=[schemas.SkippedPost(post=post, reason=words) for post, words in left])


@router.get(f"{_POST}/signoff", response=schemas.PostSignoffOut, operation_id="postSignoff")
def get_signoff(request: HttpRequest, brand: str, post_id: int) -> schemas.PostSignoffOut:
    """Where a post's sign-off stands: who is asked, who agreed, what has changed since."""
    context = brand_context(request, brand)
    return queries.post_signoff(context, post_of(context, post_id))


def _post_response(response: HttpResponse, post: Post) -> PostOut:
    response["ETag"] = f'"{post.revision}"'
    return post_out(post)


@router.post(f"{_POST}/approve", response=PostOut, operation_id="approvePost")
def approve_post(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, data: schemas.ApproveIn | None = None
) -> PostOut:
    """Agree to a post as it stands, or with a small change of its texts (If-Match)."""
    context = brand_context(request, brand, Capability.SIGN_OFF)
    answer = data or schemas.ApproveIn()
    changes = [answer_signoff.TextChange(c.network, c.profile, c.text) for c in answer.changes]
    post = post_of(context, post_id)
    return _post_response(
        response,
        answer_signoff.approve(
            signer_of_person(context), post.pk, if_match_revision(request), answer.deliveries, changes
        ),
    )


@router.post(f"{_POST}/send-back", response=PostOut, operation_id="sendBack")
def send_post_back(
    request: HttpRequest, response: HttpResponse, brand: str, post_id: int, data: schemas.SendBackIn
) -> PostOut:
    """Ask for a change, and say which (If-Match)."""
    context = brand_context(request, brand, Capability.SIGN_OFF)
    post, on = post_of(context, post_id), RemarkTarget(data.network, data.profile, data.field)
    return _post_response(
        response,
        answer_signoff.send_back(
            signer_of_person(context), post.pk, if_match_revision(request), data.words, on, data.deliveries
        ),
    )


@router.post(f"{_POST}/withdraw", response=PostOut, operation_id="withdrawSignoffRequest")
def destroy_request(request: HttpRequest, response: HttpResponse, brand: str, post_id: int) -> PostOut:
    """Take a post back from sign-off: it is a draft again (If-Match)."""
    context = brand_context(request, brand, Capability.WRITE)
    return _post_response(response, withdraw_request(context, post_of(context, post_id), if_match_revision(request)))


@router.get("/brands/{brand}/sign-links", response=list[schemas.SignLinkOut], operation_id="signLinks")
def list_links(request: HttpRequest, brand: str) -> list[schemas.SignLinkOut]:
    """The links with which clients sign off."""
    context = brand_context(request, brand, Capability.MANAGE_PEOPLE)
    found = SignLink.objects.filter(brand=context.brand, revoked_at=None, expires_at__gt=clock.now()).select_related(
        "user"
    )
    return [_link_out(link) for link in found.order_by("-pk")]


@router.post("/brands/{brand}/sign-links", response={201: schemas.SignLinkMade}, operation_id="createSignLink")
def add_link(request: HttpRequest, brand: str, data: schemas.SignLinkIn) -> Status[schemas.SignLinkMade]:
    """Make a client's link. Its address is told this once."""
    context = brand_context(request, brand, Capability.MANAGE_PEOPLE)
    link, token = create_link.create_link(
        context, data.display_name, data.user, data.profiles, data.may_edit, data.days
    )
    return Status(201, schemas.SignLinkMade(link=_link_out(link), address=create_link.link_address(token)))


@router.delete("/brands/{brand}/sign-links/{link_id}", response={204: None}, operation_id="revokeSignLink")
def destroy_link(request: HttpRequest, brand: str, link_id: int) -> Status[None]:
    """Take a client's link back."""
    create_link.revoke_link(brand_context(request, brand, Capability.MANAGE_PEOPLE), link_id)
    return Status(204, None)


def _link_out(link: SignLink) -> schemas.SignLinkOut:
    return schemas.SignLinkOut(
        id=link.pk,
        display_name=link.display_name,
        answers_for=link.user.name if link.user else "",
        profiles=link.profiles,
        may_edit=link.may_edit,
        expires_at=link.expires_at,
        last_opened_at=link.last_opened_at,
    )
