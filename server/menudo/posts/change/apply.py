"""Carry out a decision: what was decided first, then what follows from it, each kind in one statement."""

from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime

from menudo.base.live import tell_all
from menudo.base.rows import write_fields
from menudo.posts.actions.ask import ask
from menudo.posts.actions.due import put_jobs
from menudo.posts.change.cards import CARD_FIELDS, refresh_cards, says_the_day, write_uses
from menudo.posts.change.content import insert_deliveries
from menudo.posts.change.decision import Decision
from menudo.posts.change.holds import refresh_holds
from menudo.posts.change.taken import Taken
from menudo.posts.models import Delivery, Post, SignOff
from menudo.posts.serializers import SCHEDULE_FIELDS, load_schedule, write_schedule
from menudo.posts.signing import refresh_signoff
from menudo_core.signoff.states import DeliveryState, PostState

_POST_FIELDS = ("up_at", "binned", "aside", "evergreen", "state", "revision", "changed")
_SHOWN_FIELDS = ("signing", *CARD_FIELDS)
_DELIVERY_FIELDS = (*SCHEDULE_FIELDS, *_SHOWN_FIELDS, "revision")
# More than this of one kind are told as "many".
_EACH = 20


@dataclass
class Applied:
    """What has changed, for every open browser: the ids of posts and deliveries."""

    posts: set[int] = field(default_factory=set)
    deliveries: set[int] = field(default_factory=set)

    def publish(self, brand: int) -> None:
        """Say it; heard when the transaction commits."""
        for kind, ids in (("post", self.posts), ("delivery", self.deliveries)):
            if ids:
                tell_all(brand, kind, sorted(ids) if len(ids) <= _EACH else [0])


def apply(taken: Taken, decision: Decision, applied: Applied, now: datetime, uncarded: Collection[int]) -> int:
    """Write it. `uncarded`: posts made just now, whose cards were never written. How many deliveries' sign-off stands
    otherwise than before."""
    recarded = {*uncarded}
    if decision.contents:
        taken.write_contents(decision.contents)
        recarded |= decision.contents.keys()
        write_uses(decision.contents)
    if made := [id for id in uncarded if id not in decision.contents]:
        write_uses({id: taken.contents[id] for id in made})
    recarded |= _write_profiles(taken, decision)
    rescheduled = _set_schedules(taken, decision)
    revised = rescheduled | _set_publications(taken, decision) | {*decision.revised_deliveries}
    for id, status in decision.statuses.items():
        status.write(taken.posts[id])
    # What is planned is answered, whoever did it: taken off again it waits in the tray as any draft does.
    for id in rescheduled:
        delivery = taken.deliveries[id]
        delivery.post.aside = delivery.post.aside and delivery.due_at is None
    SignOff.objects.bulk_create(decision.answers)

    touched = _touched_posts(taken, decision, recarded, revised)
    posts = {id: taken.posts[id] for id in touched}
    rows = [row for row in taken.deliveries.values() if row.post_id in touched]
    cards = _refresh_cards(taken, rows, recarded, rescheduled)
    states = {id: post.state for id, post in posts.items()}
    signings, signed = refresh_signoff(taken.brand, posts, rows, lambda: taken.renderers)
    held = {row.pk for row in refresh_holds(rows, taken.pauses, now, rescheduled)}
    moved, shown = revised | held, cards | signed
    for id in moved:
        taken.deliveries[id].revision += 1
    _move_revisions_on(posts, decision, now)
    write_fields([row for row in rows if row.pk in moved], _DELIVERY_FIELDS)
    write_fields([row for row in rows if row.pk in shown and row.pk not in moved], _SHOWN_FIELDS)
    # After their deliveries: what has anything on the calendar can't go to the bin.
    write_fields(list(posts.values()), _POST_FIELDS)
    put_jobs(
        (row.pk, row.due_at) for row in rows if row.pk in rescheduled | held and row.state == DeliveryState.PLANNED
    )
    ask(
        taken.brand,
        [(post, signings.get(id, [])) for id, post in posts.items() if post.state == PostState.UP],
        taken.by,
    )
    applied.posts |= _posts_to_tell(decision, {*uncarded}) | {
        id for id, post in posts.items() if post.state != states[id]
    }
    applied.deliveries |= moved
    return len(signed)


def _write_profiles(taken: Taken, decision: Decision) -> set[int]:
    """Posts go to the profiles that were decided: the posts that have new deliveries."""
    pairs, gone = [], []
    for id, wanted in decision.profiles.items():
        there = {row.profile_id: row.pk for row in taken.deliveries_of(id)}
        pairs += [(id, profile) for profile in sorted({*wanted} - there.keys())]
        gone += [pk for profile, pk in there.items() if profile not in wanted]
    if gone:
        Delivery.objects.filter(pk__in=gone).delete()
        taken.drop_deliveries(gone)
    insert_deliveries(taken.brand.pk, pairs)
    grown = {id for id, _ in pairs}
    if grown:
        taken.load_deliveries(sorted(grown))
    return grown


def _set_schedules(taken: Taken, decision: Decision) -> set[int]:
    """Have the rows stand where they are to: the ids of those that do."""
    for id, schedule in decision.schedules.items():
        row = taken.deliveries[id]
        if schedule.profile_id != row.profile_id:
            row.profile = taken.profile(schedule.profile_id)
        write_schedule(row, schedule)
    return {*decision.schedules}


def _set_publications(taken: Taken, decision: Decision) -> set[int]:
    """Have the rows say what is at their network. Few at once, and their own fields: written for themselves."""
    for id, known in decision.publications.items():
        row = taken.deliveries[id]
        row.remote_url, row.published_at, row.sent = known.url, known.at, dict(known.sent) if known.sent else None
    rows = [taken.deliveries[id] for id in decision.publications]
    write_fields(rows, ("remote_url", "published_at", "sent"))
    return {*decision.publications}


def _touched_posts(taken: Taken, decision: Decision, recarded: set[int], revised: set[int]) -> set[int]:
    of_rows = {*revised, *(answer.delivery_id for answer in decision.answers)}
    found = {taken.deliveries[id].post_id for id in of_rows}
    return (
        found
        | recarded
        | decision.profiles.keys()
        | decision.statuses.keys()
        | {*decision.revised, *decision.rechecked}
    )


def _refresh_cards(taken: Taken, rows: list[Delivery], recarded: set[int], rescheduled: set[int]) -> set[int]:
    """Have the rows' cards say what they do now; those that are new. Another time or profile may make another card."""
    wanted = {row.pk for row in rows if row.post_id in recarded}
    for id in rescheduled:
        row, before = taken.deliveries[id], taken.schedules_before[id]
        elsewhere = row.profile_id != before.profile_id
        other_day = load_schedule(row).wall_time != before.wall_time
        if elsewhere or (other_day and says_the_day(taken.contents[row.post_id])):
            wanted.add(id)
    if not wanted:
        return set()
    return {
        row.pk for row in refresh_cards(taken.brand, [taken.deliveries[id] for id in sorted(wanted)], taken.renderers)
    }


def _move_revisions_on(posts: dict[int, Post], decision: Decision, now: datetime) -> None:
    answered = {answer.delivery.post_id for answer in decision.answers}
    written = decision.contents.keys() | decision.profiles.keys() | {*decision.revised}
    for id, post in posts.items():
        if id in written:
            post.changed = now
        if id in written or id in answered or id in decision.statuses:
            post.revision += 1


def _posts_to_tell(decision: Decision, made: set[int]) -> set[int]:
    answered = {answer.delivery.post_id for answer in decision.answers}
    named = decision.contents.keys() | decision.profiles.keys() | decision.statuses.keys() | {*decision.revised}
    return made | answered | named
