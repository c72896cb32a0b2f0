"""What waits for sign-off, as those who sign see it; and where one post's sign-off stands."""

from collections.abc import Iterable
from datetime import UTC, datetime
from typing import Any

from menudo.base import clock
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.checking import column, facts
from menudo.posts.models import Post, SignOff
from menudo.posts.rendering import render_delivery
from menudo.posts.serializers import load_content
from menudo.posts.signing import Signing, signings
from menudo.posts.wording_io import SegmentOut
from menudo.profiles.reads import network_out
from menudo.profiles.sheets import sheets_of
from menudo.signoff.actions.answer import asked_of, concerns
from menudo.signoff.actions.put_up import yours
from menudo.signoff.schemas import AnswerOut, SignedOut, SigningOut, ToSignColumn, ToSignOut, ToSignPost, ToSignWhen
from menudo.signoff.signers import Signer, Signers, of_person
from menudo.talk.models import Remark
from menudo.talk.reads import remark_out
from menudo_core.networks.content import Content
from menudo_core.networks.sheet import RuleSheet
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.rules import wanted_by
from menudo_core.signoff.states import DeliveryState, PostEvent, PostState, post_takes
from menudo_core.wording.compare import compare

_MOST = 100
OVER = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF}


def to_sign(
    signer: Signer, everyone: bool = False, only: Iterable[int] | None = None, ends: datetime | None = None
) -> ToSignOut:
    """What waits on the signer, first to go out first; `everyone`: what waits on others too. Of `only` these posts.

    A client by link is shown what they are asked and what they have asked to be changed, and no name of a colleague's.
    """
    brand, now = signer.brand, clock.now()
    waiting = _waiting(signer, everyone, only)
    shown = waiting[:_MOST]
    remarks = _remarks(signer, [post.pk for post, _ in shown])
    signers = Signers.of(brand)
    sheets = sheets_of(brand.pk)
    known = facts(brand, [s.content for _, found in shown for s in found])
    out = [_post(signer, post, found, remarks.get(post.pk, []), signers, sheets, known, now) for post, found in shown]
    used = {c.network for p in out for c in p.columns}
    return ToSignOut(
        brand=brand.name, ink=brand.ink, zone=brand.zone, called=signer.name, may_edit=signer.may_edit,
        by_link=signer.by_link, ends=ends, posts=out, more=len(waiting) - len(shown),
        networks=[network_out(sheets[name]) for name in sorted(used) if name in sheets],
    )  # fmt: skip


def to_sign_briefly(signer: Signer) -> list[tuple[Post, datetime | None]]:
    """The posts that the signer is asked now, and until when: for lists and counts."""
    return [
        (post, min((w for s in found if (w := wanted_by(s.rules, s.delivery.due_at))), default=None))
        for post, found in _waiting(signer, False, None)
        if any(asked_of(signer, s) and s.standing.sign is Sign.WAITS for s in found)
    ]


def _waiting(signer: Signer, everyone: bool, only: Iterable[int] | None) -> list[tuple[Post, list[Signing]]]:
    rows = Post.objects.filter(brand=signer.brand, state__in=[PostState.UP, PostState.BACK], binned__isnull=True)
    if only is not None:
        rows = rows.filter(pk__in=only)
    rows = rows.filter(deliveries__signing__in=[Sign.WAITS, Sign.BACK]).distinct().select_related("author", "campaign")
    posts = {post.pk: post for post in rows}
    for post in posts.values():
        post.brand = signer.brand
    waiting = []
    for id, found in signings(signer.brand, posts.values()).items():
        seen = [s for s in found if s.delivery.state not in OVER and s.standing.sign in (Sign.WAITS, Sign.BACK)]
        seen = [s for s in seen if (everyone and not signer.by_link) or (concerns(signer, s) and _shown(signer, s))]
        if seen:
            waiting.append((posts[id], seen))
    far = datetime.max.replace(tzinfo=UTC)
    return sorted(waiting, key=lambda pair: (_first(pair[1]) or far, pair[0].pk))


def _shown(signer: Signer, one: Signing) -> bool:
    return asked_of(signer, one) or one.standing.sign is Sign.BACK


def _first(found: list[Signing]) -> datetime | None:
    return min((s.delivery.due_at for s in found if s.delivery.due_at), default=None)


def _remarks(signer: Signer, posts: list[int]) -> dict[int, list[Remark]]:
    found: dict[int, list[Remark]] = {}
    rows = Remark.objects.filter(post__in=posts, resolved=None)
    # What colleagues say to each other isn't for clients, unless they say so.
    for remark in rows.filter(shared=True) if signer.by_link else rows:
        if signer.profiles is None or remark.profile_id is None or remark.profile_id in signer.profiles:
            found.setdefault(remark.post_id, []).append(remark)
    return found


def _post(
    signer: Signer, post: Post, found: list[Signing], remarks: list[Remark], signers: Signers, sheets: dict[str, RuleSheet],
    known: dict[int, Any],
    now: datetime,
) -> ToSignPost:  # fmt: skip
    first = min(found, key=lambda s: (s.delivery.due_at is None, s.delivery.due_at or now))
    until = min((w for s in found if (w := wanted_by(s.rules, s.delivery.due_at))), default=None)
    asked = frozenset[str | None]().union(*(s.standing.asked for s in found))
    return ToSignPost(
        post=post.pk, revision=post.revision, title="" if signer.by_link else post.title, headline=first.delivery.headline,
        state=post.state, author=post.author.name if post.author else "",
        first_due=_wall(first), until=until, late=until is not None and until <= now,
        missed=all(s.delivery.state == DeliveryState.MISSED for s in found),
        mine=any(asked_of(signer, s) for s in found), asked=[] if signer.by_link else signers.called(asked),
        columns=_columns(signer, post, found, sheets, known),
        remarks=[remark_out(r, None if signer.by_link else signer.user) for r in remarks],
    )  # fmt: skip


def _columns(
    signer: Signer, post: Post, found: list[Signing], sheets: dict[str, RuleSheet], known: dict[int, Any]
) -> list[ToSignColumn]:
    """The versions, each once: profiles of a network that say the same and stand the same are one."""
    groups: dict[tuple[str, int | None, bool], list[Signing]] = {}
    for s in found:
        apart = s.delivery.profile_id if s.renderer.split_off(s.delivery.profile_id) else None
        groups.setdefault((s.delivery.profile.network, apart, asked_of(signer, s)), []).append(s)
    out = []
    for (network, profile, mine), same in groups.items():
        sheet = sheets.get(network)
        if sheet is None:
            continue
        first, renderer = same[0].delivery, same[0].renderer
        said = render_delivery(renderer, first, first.profile, post.brand)
        segments, parts = differs(same[0])
        out.append(
            ToSignColumn(
                network=network, profile=profile, name=sheet.name, text=renderer.version(network, first.profile_id).text,
                when=[
                    ToSignWhen(
                        delivery=s.delivery.pk, profile=s.delivery.profile_id, handle=s.delivery.profile.handle,
                        name=s.delivery.profile.name, wall=_wall(s), zone=s.delivery.zone,
                    )
                    for s in same
                ],
                mine=mine, differs=segments, parts=parts,
                column={**column(sheet, said, known, first.profile.followers, len(same)), "profile": profile},  # type: ignore[arg-type]
            )
        )  # fmt: skip
    return out


def _wall(one: Signing) -> str | None:
    wall = one.delivery.wall
    return wall.replace(tzinfo=None).isoformat(timespec="minutes") if wall else None


def differs(one: Signing) -> tuple[list[SegmentOut] | None, list[str]]:
    """What has changed since somebody last agreed to the delivery: its text by words, and what else. None: nothing has, or
    nobody had."""
    before = last_agreed(one.answers)
    if before is None or (before.says == one.says and before.profile_id == one.delivery.profile_id):
        return None, []
    was = load_content(before.said)
    return [SegmentOut(change=s.change, text=s.text) for s in compare(was.text, one.content.text)], other_parts(
        was, one.content
    )


def other_parts(was: Content, now: Content) -> list[str]:
    """What differs between two wordings beside the text."""
    pairs = (
        ("media", (was.media, _of_media(was)), (now.media, _of_media(now))), ("link", (was.link, was.card), (now.link, now.card)),
        ("first comment", was.first_comment, now.first_comment), ("fields", dict(was.fields), dict(now.fields)),
        ("form", was.form, now.form), ("link tags", was.link_tags, now.link_tags),
    )  # fmt: skip
    return [name for name, before, after in pairs if before != after]


def _of_media(content: Content) -> dict[int, Any]:
    return {asset: shown for asset, shown in content.shown.items() if asset in content.media}


def last_agreed(answers: list[SignOff]) -> SignOff | None:
    """The last agreement, whoever gave it."""
    return next((a for a in reversed(answers) if a.verdict == "agreed"), None)


def signed_out(one: Signing, brand: Brand, signers: Signers, now: datetime) -> SignedOut:
    """One delivery's sign-off, for the people of the brand."""
    until = wanted_by(one.rules, one.delivery.due_at)
    segments, parts = differs(one)
    waits = one.standing.sign is Sign.WAITS
    return SignedOut(
        delivery=one.delivery.pk, profile=one.delivery.profile_id, handle=one.delivery.profile.handle,
        network=one.delivery.profile.network, sign=one.standing.sign, asked=signers.called(one.standing.asked),
        until=until, late=waits and until is not None and until <= now,
        answers=[
            AnswerOut(
                name=a.name, verdict=a.verdict, at=a.at,
                stands=counts,
            )
            for a, counts in zip(one.answers, one.counts, strict=True)
        ],
        differs=segments, parts=parts,
    )  # fmt: skip


def signing(place: Here, post: Post) -> SigningOut:
    """Where a post's sign-off stands, and what the person may do about it."""
    post.brand = place.brand
    found = signings(place.brand, [post])[post.pk]
    signers, now = Signers.of(place.brand), clock.now()
    return SigningOut(
        post=post.pk, revision=post.revision, state=post.state, needed=place.brand.needs_signoff,
        can=_can(place, post, found),
        deliveries=[signed_out(s, place.brand, signers, now) for s in found if s.rules or s.answers],
    )  # fmt: skip


def _can(place: Here, post: Post, found: list[Signing]) -> list[str]:
    can, state = [], PostState(post.state)
    if place.brand.needs_signoff and yours(place, post):
        if post_takes(state, PostEvent.PUT_UP) and found:
            can.append("put_up")
        if post_takes(state, PostEvent.WITHDRAW):
            can.append("withdraw")
    if May.SIGN_OFF in place.capabilities and post.up_at is not None:
        signer = of_person(place)
        if any(asked_of(signer, s) for s in found):
            can.append("agree")
        if any(concerns(signer, s) and s.delivery.state not in OVER for s in found):
            can.append("send_back")
    return can
