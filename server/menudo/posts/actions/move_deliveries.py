"""Move deliveries, one or many: to other times, to other profiles, or back to the tray, in one step with one Undo."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from menudo.base.problems import ConflictError, Fault, InvalidError
from menudo.base.sentences import Sentence, say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.actions.plan_post import content_blocks
from menudo.posts.actions.watch import notify_moved
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.rendering import delivery_day
from menudo.posts.times import nearest_free_slot, profile_zone
from menudo.profiles.models import Profile
from menudo_core.signoff.schedule import Schedule, require_changeable, schedule_at, shift_by, unschedule
from menudo_core.signoff.states import Event, TransitionError, next_state
from menudo_core.timing.walltimes import wall_time_in


@dataclass(frozen=True, slots=True)
class Move:
    """Where one delivery is to go. `wall_time` is one of the brand's zone, None the tray; `profile` None: its own.
    `snap`: to the free slot of that day that is nearest."""

    id: int
    revision: int
    wall_time: str | None
    profile: int | None = None
    snap: bool = False


@dataclass
class MoveResult:
    """What was moved, what was left and why, and the entry that undoes it."""

    moved: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def move_deliveries(context: BrandContext, moves: Sequence[Move], whole: bool = False) -> MoveResult:
    """Move each delivery that can be; the others stay, each with its reason. Wording and sign-off stay as they are.

    `whole`: the other deliveries of each post go along, by as much. Raises InvalidError when nothing could be moved, and
    StaleRevisionError when the only one has been changed since.
    """
    context.require(Capability.PUBLISH)
    slots_of: list[int] = []
    if any(move.snap for move in moves):
        asked = Delivery.objects.filter(brand=context.brand, pk__in=[move.id for move in moves])
        elsewhere = [move.profile for move in moves if move.profile is not None]
        slots_of = [*asked.values_list("profile_id", flat=True), *elsewhere]
    with change_posts(context, deliveries=[move.id for move in moves], slots_of=slots_of) as change:
        shifting = _Mover(context, change, moves)
        if whole:
            shifting.move_siblings()
        done, schedules = shifting.done, shifting.schedules
        change.apply(Decision(schedules=schedules))
        sentence = _say_moved(change, done, moves)
        rows = [change.deliveries[delivery_id] for delivery_id in done.moved]
        notify_moved(context, {row.post_id for row in rows}, sentence)
        kind, delivery_id = ("delivery", done.moved[0]) if len(done.moved) == 1 else ("post", rows[0].post_id)
        done.undo = change.record("move", kind, delivery_id, sentence, undoes=schedules).pk
    return done


class _Mover:
    """What becomes of each delivery, decided one after another: where one goes is taken for the next."""

    def __init__(self, context: BrandContext, change: PostChange, moves: Sequence[Move]) -> None:
        self._context, self._change, self._moves = context, change, moves
        self.done = MoveResult()
        self.schedules: dict[int, Schedule] = {}
        faults = []
        for number, move in enumerate(moves):
            try:
                self.schedules[move.id] = self._decide(move)
                self.done.moved.append(move.id)
            except (InvalidError, ConflictError, TransitionError) as error:
                words = (
                    error.words if isinstance(error, InvalidError | ConflictError) else self._name_of(move, str(error))
                )
                self.done.left.append((move.id, words))
                faults.append(Fault(f"/moves/{number}", words, "left"))
        if not self.done.moved:
            raise InvalidError(faults=faults)

    def _name_of(self, move: Move, words: str) -> str:
        return f"{self._change.deliveries[move.id].profile.handle}: {words}"

    def _decide(self, move: Move) -> Schedule:
        """Where one goes. Raises InvalidError, ConflictError, TransitionError, and StaleRevisionError when it is the only one."""
        context, change = self._context, self._change
        delivery = change.deliveries.get(move.id)
        if delivery is None:
            raise ConflictError(say("delivery.gone"))
        if delivery.revision != move.revision:
            if len(self._moves) == 1:
                change.delivery(move.id, move.revision)
            raise ConflictError(say("delivery.changed_meanwhile", profile=delivery.profile.handle))
        before = change.schedule(delivery)
        require_changeable(before)
        if move.wall_time is None:
            return unschedule(before, Event.UNPLAN)
        next_state(before.state, Event.MOVE)
        at = resolve_due(parse_wall_time(move.wall_time, "/moves"), context.zone, change.now, "/moves").instant
        profile, zone = delivery.profile, context.zone
        if move.profile is not None and move.profile != delivery.profile_id:
            profile = self._other_profile(delivery, move.profile, wall_time_in(at, zone))
        if move.snap:
            zone = profile_zone(context, profile)
            at = nearest_free_slot(context, delivery, profile, at, change.now, self._chosen_times(profile.pk))
        return replace(schedule_at(before, at, zone, Event.MOVE), profile_id=profile.pk)

    def _chosen_times(self, profile: int) -> Collection[datetime]:
        """The instants that were chosen for a profile just now."""
        return {s.due_at for s in self.schedules.values() if s.profile_id == profile and s.due_at is not None}

    def _other_profile(self, delivery: Delivery, profile_id: int, wall_time: datetime) -> Profile:
        """The profile that the post is to go to instead, where its rules let it and it isn't going there already."""
        change = self._change
        there = Profile.objects.filter(brand=change.brand, pk=profile_id).first()
        if there is None:
            raise ConflictError(say("profile.gone"))
        sisters = [d for d in change.deliveries_of(delivery.post) if d.pk != delivery.pk]
        # Where one of them goes away in the same step, too: two rows can't change places in one statement.
        if there.pk in {self._profile_of(d) for d in sisters} | {d.profile_id for d in sisters}:
            raise ConflictError(say("post.goes_already", profile=there.handle))
        renderer = change.renderer(delivery.post)
        content = renderer.render(there.network, there.pk, there.handle, delivery_day(wall_time, change.brand))
        elsewhere = Delivery(pk=delivery.pk, profile=there)
        if words := content_blocks(change.brand.pk, [elsewhere], {delivery.pk: content}).get(delivery.pk):
            raise ConflictError(words)
        return there

    def _profile_of(self, delivery: Delivery) -> int:
        """The profile that a sister goes to, as decided so far."""
        schedule = self.schedules.get(delivery.pk)
        return schedule.profile_id if schedule else delivery.profile_id

    def move_siblings(self) -> None:
        """The other deliveries of each post go by as much on the wall as the first of it that was moved."""
        change, named = self._change, {move.id for move in self._moves}
        leads: dict[int, int] = {}
        for delivery_id in self.done.moved:
            leads.setdefault(change.deliveries[delivery_id].post_id, delivery_id)
        for delivery in change.deliveries.values():
            if delivery.pk in named or delivery.post_id not in leads:
                continue
            by = self._shift_of(leads[delivery.post_id])
            try:
                before = change.schedule(delivery)
                to = unschedule(before, Event.UNPLAN) if by is None else shift_by(before, by, self._context.zone)
            except TransitionError:
                continue
            if to.due_at is not None and to.due_at <= change.now:
                wall = wall_time_in(to.due_at, ZoneInfo(to.zone))
                reason = f"{delivery.profile.handle}: {wall:%a} {wall.day} {wall:%b, %H:%M} has passed."
                self.done.left.append((delivery.pk, reason))
                continue
            self.schedules[delivery.pk] = to
            self.done.moved.append(delivery.pk)

    def _shift_of(self, delivery_id: int) -> timedelta | None:
        """By how much on the brand's wall; None: to the tray, or out of it."""
        was, due = self._change.deliveries[delivery_id].due_at, self.schedules[delivery_id].due_at
        zone = self._context.zone
        return None if was is None or due is None else wall_time_in(due, zone) - wall_time_in(was, zone)


def _say_moved(change: PostChange, done: MoveResult, moves: Sequence[Move]) -> Sentence:
    tray = all(move.wall_time is None for move in moves)
    if len(done.moved) > 1:
        return say("delivery.many_unscheduled" if tray else "delivery.many_moved", count=len(done.moved))
    one = change.deliveries[done.moved[0]]
    if tray or one.due_at is None:
        return say("delivery.unscheduled", profile=one.profile.handle)
    at = wall_time_in(one.due_at, ZoneInfo(one.zone))
    return say("delivery.moved", profile=one.profile.handle, at=at)
