"""Answer what was put up: agree, with a small change if one may, or send it back with a remark."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Forbidden, Invalid, NotFound, Stale
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.resign import resign
from menudo.posts.actions.save import wording_of
from menudo.posts.actions.watch import called, tell_watchers
from menudo.posts.kept import as_sent
from menudo.posts.locking import lock_posts
from menudo.posts.models import Post, SignOff, Version
from menudo.posts.reads import state_now
from menudo.posts.signing import Signing, signings
from menudo.signoff.signers import Signer
from menudo.talk.actions.say import On, put_remark
from menudo_core.signoff.agreement import Sign, Verdict
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.text.clean import unusable

_OVER = {DeliveryState.PUBLISHED, DeliveryState.DOWN, DeliveryState.OFF, DeliveryState.SENDING}


@dataclass(frozen=True, slots=True)
class Change:
    """Another text for a network's version, or for that of a profile split off."""

    network: str
    profile: int | None
    text: str


def agree(
    signer: Signer, post: int, began: int, only: Collection[int] | None = None, changes: Sequence[Change] = ()
) -> Post:
    """Agree to what the signer is asked, of the deliveries in `only` (None: all); its held deliveries go on, those too
    late are left to be missed. With `changes` the texts are changed first, and others who had agreed are asked again.

    Raises Stale, Forbidden, Conflict when nothing waits on them.
    """
    with transaction.atomic():
        row = _locked(signer, post, began)
        if changes:
            _change(signer, row, changes)
        mine = [s for s in _mine(signer, row, only) if s.standing.sign in (Sign.WAITS, Sign.BACK)]
        if not mine:
            raise Conflict(_nothing(signer, row))
        _keep(signer, mine, Verdict.AGREED)
        resign(signer.brand, [row.pk], signer.user)
        row.revision += 1
        row.save(update_fields=["revision"])
        row.refresh_from_db()
        words = f"agreed to {called(row)}" + (" with a small change" if changes else "") + _where(mine, row)
        record(signer.brand.pk, signer.actor, "agree", "post", row.pk, words)
        key = f"agreed:{row.pk}:{row.revision}"
        done = row.state == PostState.SIGNED
        told = f"{signer.name} {words}" + ("; it is signed off" if done else "")
        tell_watchers(signer.brand, row, "agreed", key, told, but=[signer.user])
        tell(signer.brand.pk, "post", row.pk)
    return row


def agree_to_all(signer: Signer, posts: Mapping[int, int]) -> tuple[int, list[tuple[int, str]]]:
    """Agree to each post in its revision. How many; which were left, and why. Each is a transaction of its own."""
    done, left = 0, []
    for post, began in posts.items():
        try:
            agree(signer, post, began)
            done += 1
        except (Conflict, NotFound, Forbidden) as error:
            left.append((post, error.words))
        except Stale:
            left.append((post, "Someone changed it meanwhile. Look at it again."))
    return done, left


def send_back(signer: Signer, post: int, began: int, words: str, on: On, only: Collection[int] | None = None) -> Post:
    """Ask for a change, and say which: on the post, a version or a field. Raises Invalid without words, Stale, Conflict."""
    words = words.strip()
    if not words or unusable(words):
        raise Invalid.at("/words", unusable(words) or "Say what should be changed.", "missing")
    with transaction.atomic():
        row = _locked(signer, post, began)
        if row.up_at is None:
            raise Conflict("It isn't up for sign-off.")
        mine = [s for s in _mine(signer, row, only, asked=False) if on.network in ("", s.delivery.profile.network)]
        if on.profile is not None:
            mine = [s for s in mine if s.delivery.profile_id == on.profile]
        if not mine:
            raise Conflict(_nothing(signer, row))
        _keep(signer, mine, Verdict.CHANGE)
        put_remark(signer.brand, row, None if signer.by_link else signer.user, signer.name, words, on)
        resign(signer.brand, [row.pk], signer.user)
        row.revision += 1
        row.save(update_fields=["revision"])
        row.refresh_from_db()
        record(signer.brand.pk, signer.actor, "send_back", "post", row.pk, f"sent {called(row)} back: {words[:120]}")
        key = f"back:{row.pk}:{row.revision}"
        tell_watchers(
            signer.brand, row, "back", key, f"{signer.name} sent {called(row)} back: {words}", but=[signer.user]
        )
        tell(signer.brand.pk, "post", row.pk)
    return row


def asked_of(signer: Signer, one: Signing) -> bool:
    """Whether the signer is asked of this delivery now."""
    return signer.key in one.standing.asked or None in one.standing.asked


def concerns(signer: Signer, one: Signing) -> bool:
    """Whether a delivery is in the signer's sight and under a rule that names them (or anyone)."""
    seen = signer.profiles is None or one.delivery.profile_id in signer.profiles
    return seen and any(not rule.who or signer.key in rule.who for rule in one.rules)


def _locked(signer: Signer, id: int, began: int) -> Post:
    row = lock_posts(signer.brand, [id]).get(id)
    if row is None:
        raise NotFound()
    row.brand = signer.brand
    unchanged(began, row.revision, state_now(row) if not signer.by_link else {})
    return row


def _mine(signer: Signer, post: Post, only: Collection[int] | None, asked: bool = True) -> list[Signing]:
    found = [
        s
        for s in signings(signer.brand, [post])[post.pk]
        if s.delivery.state not in _OVER and concerns(signer, s) and (only is None or s.delivery.pk in only)
    ]
    if not found and signer.by_link:
        raise NotFound()
    if not asked:
        return found
    # Who asked for a change may think better of it.
    return [s for s in found if asked_of(signer, s) or (s.standing.sign is Sign.BACK and _asked_change(signer, s))]


def _asked_change(signer: Signer, one: Signing) -> bool:
    own = [a for a in one.answers if a.signer == signer.key]
    return bool(own) and own[-1].verdict == Verdict.CHANGE


def _nothing(signer: Signer, post: Post) -> str:
    if post.state == PostState.SIGNED:
        return "It is signed off already."
    if post.up_at is None:
        return "It isn't up for sign-off."
    return "It waits on others just now, not on you."


def _keep(signer: Signer, mine: list[Signing], verdict: Verdict) -> None:
    now = clock.now()
    SignOff.objects.bulk_create(
        [
            SignOff(
                delivery=s.delivery, profile_id=s.delivery.profile_id, signer=signer.key, name=signer.name,
                verdict=verdict, says=s.says, said={**as_sent(s.content), "link_tags": s.content.link_tags}, due_at=s.delivery.due_at, at=now,
            )
            for s in mine
        ]
    )  # fmt: skip


def _change(signer: Signer, post: Post, changes: Sequence[Change]) -> None:
    if not signer.may_edit:
        raise Forbidden("You may agree or ask for a change here, not change the wording yourself.")
    before = wording_of(post)
    there = {(d.profile.network, d.profile_id) for d in post.deliveries.select_related("profile")}
    seen = {pair for pair in there if signer.profiles is None or pair[1] in signer.profiles}
    for number, change in enumerate(changes):
        if words := unusable(change.text):
            raise Invalid.at(f"/changes/{number}/text", words)
        if not any(network == change.network and change.profile in (None, profile) for network, profile in seen):
            raise NotFound()
        whose: dict[str, Any] = {"network": change.network, "profile_id": change.profile}
        version, _ = Version.objects.get_or_create(post=post, **whose)
        version.own = {**version.own, "text": change.text}
        version.save(update_fields=["own"])
    post.changed = clock.now()
    post.save(update_fields=["changed"])
    write_cards(post)
    record(signer.brand.pk, signer.actor, "write", "post", post.pk, f"changed {called(post)}", before, wording_of(post))


def _where(mine: list[Signing], post: Post) -> str:
    if len(mine) == post.deliveries.count():
        return ""
    handles = [s.delivery.profile.handle for s in mine]
    return f" for {', '.join(handles[:3])}" + (f" and {len(handles) - 3} more" if len(handles) > 3 else "")
