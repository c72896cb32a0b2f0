"""Carry out a decision: what was decided first, then what follows from it, each kind in one statement."""

from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime

from menudo.base.live import DeliveryChange, publish_deliveries, publish_posts
from menudo.base.rows import write_fields
from menudo.posts.actions.enqueue_delivery import enqueue_deliveries
from menudo.posts.actions.notify_signers import notify_signers
from menudo.posts.change.cards import CARD_FIELDS, depends_on_day, refresh_cards, write_uses
from menudo.posts.change.content import insert_deliveries
from menudo.posts.change.decision import Decision
from menudo.posts.change.holds import refresh_holds
from menudo.posts.change.locked_posts import LockedPosts
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import store_sent_content
from menudo.posts.serializers_schedule import SCHEDULE_FIELDS, load_schedule, write_schedule
from menudo.posts.signoff_state import refresh_signoff
from menudo.signoff.models import SignOff
from menudo_core.signoff.states import DeliveryState, PostState

_POST_FIELDS = ("requested_at", "deleted_at", "aside", "evergreen", "state", "revision", "updated_at")
_SHOWN_FIELDS = ("signoff_state", *CARD_FIELDS)
_DELIVERY_FIELDS = (*SCHEDULE_FIELDS, *_SHOWN_FIELDS, "revision")


@dataclass
class Applied:
    """What has changed, for every open browser: posts, each with whether it is none of the calendar's, and deliveries, by their ids."""

    posts: dict[int, bool] = field(default_factory=dict)
    deliveries: dict[int, DeliveryChange] = field(default_factory=dict)

    def publish(self, brand: int) -> None:
        """Say it; heard when the transaction commits."""
        if self.posts:
            publish_posts(brand, self.posts)
        if self.deliveries:
            publish_deliveries(brand, self.deliveries.values())


def apply_decision(
    taken: LockedPosts, decision: Decision, applied: Applied, now: datetime, uncarded: Collection[int]
) -> int:
    """Write it. `uncarded`: posts made just now, whose cards were never written. How many deliveries' sign-off stands
    otherwise than before."""
    recarded = {*uncarded}
    if decision.contents:
        taken.write_contents(decision.contents)
        recarded |= decision.contents.keys()
        write_uses(decision.contents)
    if made := [post_id for post_id in uncarded if post_id not in decision.contents]:
        write_uses({post_id: taken.contents[post_id] for post_id in made})
    recarded |= _write_profiles(taken, decision)
    rescheduled = _set_schedules(taken, decision)
    revised = rescheduled | _set_publications(taken, decision) | {*decision.revised_deliveries}
    # To the bin or out of it: what of theirs stands on the calendar comes or goes with them.
    binned = {
        post_id
        for post_id, status in decision.statuses.items()
        if (status.deleted_at is None) != (taken.posts[post_id].deleted_at is None)
    }
    for post_id, status in decision.statuses.items():
        status.write(taken.posts[post_id])
    # What is planned is answered, whoever did it: taken off again it waits in the tray as any draft does.
    for post_id in rescheduled:
        delivery = taken.deliveries[post_id]
        delivery.post.aside = delivery.post.aside and delivery.due_at is None
    SignOff.objects.bulk_create(decision.answers)

    touched = _touched_posts(taken, decision, recarded, revised)
    posts = {post_id: taken.posts[post_id] for post_id in touched}
    rows = [row for row in taken.deliveries.values() if row.post_id in touched]
    cards = _refresh_cards(taken, rows, recarded, rescheduled)
    states = {post_id: post.state for post_id, post in posts.items()}
    signings, signed = refresh_signoff(taken.brand, posts, rows, lambda: taken.renderers)
    held = {row.pk for row in refresh_holds(rows, taken.pauses, now, rescheduled)}
    moved, shown = revised | held, cards | signed
    for post_id in moved:
        taken.deliveries[post_id].revision += 1
    _move_revisions_on(posts, decision, now)
    write_fields([row for row in rows if row.pk in moved], _DELIVERY_FIELDS)
    write_fields([row for row in rows if row.pk in shown and row.pk not in moved], _SHOWN_FIELDS)
    # After their deliveries: what has anything on the calendar can't go to the bin.
    write_fields(list(posts.values()), _POST_FIELDS)
    enqueue_deliveries(
        (row.pk, row.due_at) for row in rows if row.pk in rescheduled | held and row.state == DeliveryState.PLANNED
    )
    notify_signers(
        taken.brand,
        [(post, signings.get(post_id, [])) for post_id, post in posts.items() if post.state == PostState.UP],
        taken.by,
    )
    told = _posts_to_tell(decision, {*uncarded}) | {
        post_id for post_id, post in posts.items() if post.state != states[post_id]
    }
    for post_id in told:
        applied.posts[post_id] = applied.posts.get(post_id, True) and _is_undated(taken, decision, post_id)
    for delivery_id in moved | {row.pk for row in rows if row.post_id in binned and row.due_at}:
        row = taken.deliveries[delivery_id]
        applied.deliveries[delivery_id] = DeliveryChange(row.pk, row.post_id, row.profile_id, row.due_at)
    return len(signed)


def _write_profiles(taken: LockedPosts, decision: Decision) -> set[int]:
    """Posts go to the profiles that were decided: the posts that have new deliveries."""
    pairs, gone = [], []
    for profile_id, wanted in decision.profiles.items():
        there = {row.profile_id: row.pk for row in taken.deliveries_of(profile_id)}
        pairs += [(profile_id, profile) for profile in sorted({*wanted} - there.keys())]
        gone += [pk for profile, pk in there.items() if profile not in wanted]
    if gone:
        Delivery.objects.filter(pk__in=gone).delete()
        taken.drop_deliveries(gone)
    insert_deliveries(taken.brand.pk, pairs)
    grown = {post_id for post_id, _ in pairs}
    if grown:
        taken.load_deliveries(sorted(grown))
    return grown


def _set_schedules(taken: LockedPosts, decision: Decision) -> set[int]:
    """Have the rows stand where they are to: the ids of those that do."""
    for delivery_id, schedule in decision.schedules.items():
        row = taken.deliveries[delivery_id]
        if schedule.profile_id != row.profile_id:
            row.profile = taken.profile(schedule.profile_id)
        write_schedule(row, schedule)
    return {*decision.schedules}


def _set_publications(taken: LockedPosts, decision: Decision) -> set[int]:
    """Have the rows say what is at their network. Few at once, and their own fields: written for themselves."""
    for delivery_id, known in decision.publications.items():
        row = taken.deliveries[delivery_id]
        row.remote_url, row.published_at, row.sent_content = (
            known.url,
            known.at,
            store_sent_content(known.sent) if known.sent else None,
        )
    rows = [taken.deliveries[delivery_id] for delivery_id in decision.publications]
    write_fields(rows, ("remote_url", "published_at", "sent_content"))
    return {*decision.publications}


def _touched_posts(taken: LockedPosts, decision: Decision, recarded: set[int], revised: set[int]) -> set[int]:
    of_rows = {*revised, *(answer.delivery_id for answer in decision.answers)}
    found = {taken.deliveries[post_id].post_id for post_id in of_rows}
    return (
        found
        | recarded
        | decision.profiles.keys()
        | decision.statuses.keys()
        | {*decision.revised, *decision.rechecked}
    )


def _refresh_cards(taken: LockedPosts, rows: list[Delivery], recarded: set[int], rescheduled: set[int]) -> set[int]:
    """Have the rows' cards say what they do now; those that are new. Another time or profile may make another card."""
    wanted = {row.pk for row in rows if row.post_id in recarded}
    for delivery_id in rescheduled:
        row, before = taken.deliveries[delivery_id], taken.schedules_before[delivery_id]
        elsewhere = row.profile_id != before.profile_id
        other_day = load_schedule(row).wall_time != before.wall_time
        if elsewhere or (other_day and depends_on_day(taken.contents[row.post_id])):
            wanted.add(delivery_id)
    if not wanted:
        return set()
    return {
        row.pk
        for row in refresh_cards(
            taken.brand, [taken.deliveries[delivery_id] for delivery_id in sorted(wanted)], taken.renderers
        )
    }


def _move_revisions_on(posts: dict[int, Post], decision: Decision, now: datetime) -> None:
    answered = {answer.delivery.post_id for answer in decision.answers}
    written = decision.contents.keys() | decision.profiles.keys() | {*decision.revised}
    for post_id, post in posts.items():
        if post_id in written:
            post.updated_at = now
        if post_id in written or post_id in answered or post_id in decision.statuses:
            post.revision += 1


def _is_undated(taken: LockedPosts, decision: Decision, post_id: int) -> bool:
    """Nothing of it stood or stands on the calendar or in a rota."""
    stood = taken.posts[post_id].evergreen or post_id in decision.statuses or post_id in taken.dated_before
    return not stood and not any(row.due_at for row in taken.deliveries_of(post_id))


def _posts_to_tell(decision: Decision, made: set[int]) -> set[int]:
    answered = {answer.delivery.post_id for answer in decision.answers}
    named = decision.contents.keys() | decision.profiles.keys() | decision.statuses.keys() | {*decision.revised}
    return made | answered | named
