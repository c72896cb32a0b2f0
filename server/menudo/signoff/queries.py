"""What waits for sign-off, as those who sign see it; and where one post's sign-off stands."""

from collections.abc import Iterable
from datetime import UTC, datetime
from typing import Any

from menudo.base import clock
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.posts.checking import column_out, media_facts
from menudo.posts.models import Post
from menudo.posts.rendering import render_delivery
from menudo.posts.signoff_state import FINAL_STATES, DeliverySignoff, signoffs_by_post
from menudo.profiles.queries import network_out
from menudo.profiles.sheets import sheets_of
from menudo.signoff.actions.answer_signoff import is_asked, is_visible_to
from menudo.signoff.actions.request_signoff import may_request
from menudo.signoff.differences import difference_from_agreed
from menudo.signoff.schemas import (
    AnswerOut,
    DeliverySignoffOut,
    PendingColumn,
    PendingOut,
    PendingPost,
    PendingTime,
    PostSignoffOut,
)
from menudo.signoff.signers import Signer, Signers, signer_of_person
from menudo.talk.models import Remark
from menudo.talk.queries import remark_out
from menudo_core.networks.sheet import RuleSheet
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.rules import answer_deadline
from menudo_core.signoff.states import DeliveryState, PostEvent, PostState, post_accepts

_MAX_POSTS = 100


def pending_signoffs(
    signer: Signer, everyone: bool = False, only: Iterable[int] | None = None, ends: datetime | None = None
) -> PendingOut:
    """What waits on the signer, first to go out first; `everyone`: what waits on others too. Of `only` these posts.

    A client by link is shown what they are asked and what they have asked to be changed, and no name of a colleague's.
    """
    brand, now = signer.brand, clock.now()
    waiting = _waiting_posts(signer, everyone, only)
    shown = waiting[:_MAX_POSTS]
    remarks = _remarks_by_post(signer, [post.pk for post, _ in shown])
    signers = Signers.for_brand(brand)
    sheets = sheets_of(brand.pk)
    known = media_facts(brand, [s.content for _, found in shown for s in found])
    out = [
        _pending_post_out(signer, post, found, remarks.get(post.pk, []), signers, sheets, known, now)
        for post, found in shown
    ]
    used = {c.network for p in out for c in p.columns}
    return PendingOut(
        brand=brand.name,
        ink=brand.ink,
        zone=brand.zone,
        display_name=signer.name,
        may_edit=signer.may_edit,
        by_link=signer.by_link,
        expires_at=ends,
        posts=out,
        more=len(waiting) - len(shown),
        networks=[network_out(sheets[name]) for name in sorted(used) if name in sheets],
    )


def pending_signoffs_brief(signer: Signer) -> list[tuple[Post, datetime | None]]:
    """The posts that the signer is asked now, and until when: for lists and counts."""
    return [
        (post, min((w for s in found if (w := answer_deadline(s.rules, s.delivery.due_at))), default=None))
        for post, found in _waiting_posts(signer, False, None)
        if any(is_asked(signer, s) and s.status.state is SignoffState.WAITS for s in found)
    ]


def _waiting_posts(
    signer: Signer, everyone: bool, only: Iterable[int] | None
) -> list[tuple[Post, list[DeliverySignoff]]]:
    rows = Post.objects.filter(brand=signer.brand, state__in=[PostState.UP, PostState.BACK], deleted_at__isnull=True)
    if only is not None:
        rows = rows.filter(pk__in=only)
    rows = (
        rows.filter(deliveries__signoff_state__in=[SignoffState.WAITS, SignoffState.BACK])
        .distinct()
        .select_related("author", "campaign")
    )
    posts = {post.pk: post for post in rows}
    for post in posts.values():
        post.brand = signer.brand
    waiting = []
    for post_id, found in signoffs_by_post(signer.brand, posts.values()).items():
        seen = [
            s
            for s in found
            if s.delivery.state not in FINAL_STATES and s.status.state in (SignoffState.WAITS, SignoffState.BACK)
        ]
        seen = [
            s for s in seen if (everyone and not signer.by_link) or (is_visible_to(signer, s) and _is_shown(signer, s))
        ]
        if seen:
            waiting.append((posts[post_id], seen))
    far = datetime.max.replace(tzinfo=UTC)
    return sorted(waiting, key=lambda pair: (_first_due(pair[1]) or far, pair[0].pk))


def _is_shown(signer: Signer, one: DeliverySignoff) -> bool:
    return is_asked(signer, one) or one.status.state is SignoffState.BACK


def _first_due(found: list[DeliverySignoff]) -> datetime | None:
    return min((s.delivery.due_at for s in found if s.delivery.due_at), default=None)


def _remarks_by_post(signer: Signer, posts: list[int]) -> dict[int, list[Remark]]:
    found: dict[int, list[Remark]] = {}
    rows = Remark.objects.filter(post__in=posts, resolved_at=None)
    # What colleagues say to each other isn't for clients, unless they say so.
    for remark in rows.filter(shared=True) if signer.by_link else rows:
        if signer.profiles is None or remark.profile_id is None or remark.profile_id in signer.profiles:
            found.setdefault(remark.post_id, []).append(remark)
    return found


def _pending_post_out(
    signer: Signer,
    post: Post,
    found: list[DeliverySignoff],
    remarks: list[Remark],
    signers: Signers,
    sheets: dict[str, RuleSheet],
    known: dict[int, Any],
    now: datetime,
) -> PendingPost:
    first = min(found, key=lambda s: (s.delivery.due_at is None, s.delivery.due_at or now))
    until = min((w for s in found if (w := answer_deadline(s.rules, s.delivery.due_at))), default=None)
    asked = frozenset[str | None]().union(*(s.status.asked for s in found))
    return PendingPost(
        post=post.pk,
        revision=post.revision,
        title="" if signer.by_link else post.title,
        headline=first.delivery.headline,
        state=post.state,
        author=post.author.name if post.author else "",
        first_due=_format_wall_time(first),
        until=until,
        late=until is not None and until <= now,
        missed=all(s.delivery.state == DeliveryState.MISSED for s in found),
        mine=any(is_asked(signer, s) for s in found),
        asked=[] if signer.by_link else signers.display_names(asked),
        columns=_version_columns(signer, post, found, sheets, known),
        remarks=[remark_out(r, None if signer.by_link else signer.user) for r in remarks],
    )


def _version_columns(
    signer: Signer, post: Post, found: list[DeliverySignoff], sheets: dict[str, RuleSheet], known: dict[int, Any]
) -> list[PendingColumn]:
    """The versions, each once: profiles of a network that say the same and stand the same are one."""
    groups: dict[tuple[str, int | None, bool], list[DeliverySignoff]] = {}
    for s in found:
        apart = s.delivery.profile_id if s.renderer.has_own_version(s.delivery.profile_id) else None
        groups.setdefault((s.delivery.profile.network, apart, is_asked(signer, s)), []).append(s)
    out = []
    for (network, profile, mine), same in groups.items():
        sheet = sheets.get(network)
        if sheet is None:
            continue
        first, renderer = same[0].delivery, same[0].renderer
        content = render_delivery(renderer, first, first.profile, post.brand)
        segments, parts = difference_from_agreed(same[0])
        out.append(
            PendingColumn(
                network=network,
                profile=profile,
                name=sheet.name,
                text=renderer.version(network, first.profile_id).text,
                when=[
                    PendingTime(
                        delivery=s.delivery.pk,
                        profile=s.delivery.profile_id,
                        handle=s.delivery.profile.handle,
                        name=s.delivery.profile.name,
                        wall_time=_format_wall_time(s),
                        zone=s.delivery.zone,
                    )
                    for s in same
                ],
                mine=mine,
                differs=segments,
                parts=parts,
                column=column_out(sheet, content, known, first.profile.followers, len(same), profile),
            )
        )
    return out


def _format_wall_time(one: DeliverySignoff) -> str | None:
    wall_time = one.delivery.wall_time
    return wall_time.replace(tzinfo=None).isoformat(timespec="minutes") if wall_time else None


def delivery_signoff_out(one: DeliverySignoff, brand: Brand, signers: Signers, now: datetime) -> DeliverySignoffOut:
    """One delivery's sign-off, for the people of the brand."""
    until = answer_deadline(one.rules, one.delivery.due_at)
    segments, parts = difference_from_agreed(one)
    waits = one.status.state is SignoffState.WAITS
    return DeliverySignoffOut(
        delivery=one.delivery.pk,
        profile=one.delivery.profile_id,
        handle=one.delivery.profile.handle,
        network=one.delivery.profile.network,
        state=one.status.state,
        asked=signers.display_names(one.status.asked),
        until=until,
        late=waits and until is not None and until <= now,
        answers=[
            AnswerOut(
                name=a.name,
                verdict=a.verdict,
                answered_at=a.answered_at,
                counts=counts,
            )
            for a, counts in zip(one.answers, one.counts, strict=True)
        ],
        differs=segments,
        parts=parts,
    )


def post_signoff(context: BrandContext, post: Post) -> PostSignoffOut:
    """Where a post's sign-off stands, and what the person may do about it."""
    post.brand = context.brand
    found = signoffs_by_post(context.brand, [post])[post.pk]
    signers, now = Signers.for_brand(context.brand), clock.now()
    return PostSignoffOut(
        post=post.pk,
        revision=post.revision,
        state=post.state,
        needed=context.brand.needs_signoff,
        allowed_actions=_allowed_actions(context, post, found),
        deliveries=[delivery_signoff_out(s, context.brand, signers, now) for s in found if s.rules or s.answers],
    )


def _allowed_actions(context: BrandContext, post: Post, found: list[DeliverySignoff]) -> list[str]:
    can, state = [], PostState(post.state)
    if context.brand.needs_signoff and may_request(context, post):
        if post_accepts(state, PostEvent.PUT_UP) and found:
            can.append("put_up")
        if post_accepts(state, PostEvent.WITHDRAW):
            can.append("withdraw")
    if Capability.SIGN_OFF in context.capabilities and post.requested_at is not None:
        signer = signer_of_person(context)
        if any(is_asked(signer, s) for s in found):
            can.append("agree")
        if any(is_visible_to(signer, s) and s.delivery.state not in FINAL_STATES for s in found):
            can.append("send_back")
    return can
