"""What is stored comes back as it was: round trips of the core's types through JSON and rows."""

import json
from dataclasses import replace
from datetime import UTC, datetime

from hypothesis import given, settings
from hypothesis import strategies as st

from menudo.posts.models import Delivery
from menudo.posts.serializers import load_post_content, store_post_content
from menudo.posts.serializers_schedule import load_schedule, load_stored_schedule, store_schedule, write_schedule
from menudo_core.media.presentation import UNCHANGED, Box, MediaPresentation, Person
from menudo_core.networks.content import Card, Content, Overrides, PostContent
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.schedule import Schedule, SendStep
from menudo_core.signoff.states import DeliveryState

person = st.builds(Person, st.text(min_size=1), st.floats(0, 1), st.floats(0, 1))
boxes = st.builds(Box, *[st.floats(0, 1) for _ in range(4)])
maybe = lambda some: st.none() | some  # noqa: E731
showings = st.builds(
    MediaPresentation,
    turn=maybe(st.integers(0, 3)),
    crop=maybe(boxes),
    focus=maybe(st.tuples(st.floats(0, 1), st.floats(0, 1))),
    fit=maybe(st.booleans()),
    words=maybe(st.text()),
    words_at=maybe(st.sampled_from(["top", "foot"])),
    people=maybe(st.lists(person, max_size=2).map(tuple)),
    cover=maybe(st.integers(0, 9)),
    cover_at=maybe(st.floats(0, 9)),
).filter(lambda showing: showing != UNCHANGED)
ids = st.integers(1, 9)
said = {
    "text": st.text(),
    "media": st.lists(ids, max_size=3).map(tuple),
    "link": st.text(),
    "first_comment": st.text(),
    "link_tags": maybe(ids),
    "card": maybe(st.builds(Card, st.text(), st.text(), maybe(ids))),
}
more = {
    "fields": st.dictionaries(st.text(), st.text(), max_size=2),
    "shown": st.dictionaries(ids, showings, max_size=2),
}
owns = st.builds(Overrides, **{name: maybe(one) for name, one in said.items()}, form=maybe(st.just("story")), **more)
posts = st.builds(
    PostContent,
    st.text().map(str.strip),
    st.builds(Content, **said, **more),
    st.dictionaries(
        st.tuples(st.sampled_from(["brisk", "plaza"]), maybe(ids)), owns.filter(lambda o: o != Overrides())
    ),
)


@given(posts)
@settings(max_examples=150)
def test_what_a_post_says_comes_back_from_its_history_as_it_was(content):
    assert load_post_content(json.loads(json.dumps(store_post_content(content)))) == content


@given(posts)
def test_a_history_kept_by_an_earlier_menudo_is_read_as_it_was(content):
    kept = store_post_content(content)
    kept["versions"] = [
        {"own" if key == "overrides" else key: value for key, value in one.items()} for one in kept["versions"]
    ]
    assert load_post_content(json.loads(json.dumps(kept))) == content


instants = maybe(st.datetimes(datetime(2000, 1, 1), datetime(2100, 1, 1), timezones=st.just(UTC)))
schedules = st.builds(
    Schedule,
    ids,
    st.sampled_from(DeliveryState),
    instants,
    maybe(st.datetimes(datetime(2000, 1, 1), datetime(2100, 1, 1))),
    st.sampled_from(["", "Europe/Madrid"]),
    st.integers(0, 99),
    st.integers(-99, 99),
    maybe(st.integers()),
    instants,
    maybe(st.sampled_from(Hold)),
    instants,
    st.integers(0, 9),
    st.text(),
    st.text(),
    st.sampled_from([SendStep.NONE, SendStep.HAND]),
)


@given(schedules, st.sampled_from([SendStep.NONE, SendStep.CREATE]))
def test_where_a_delivery_stands_comes_back_from_its_history_and_its_row_as_it_was(schedule, step):
    present = replace(schedule, step=step)
    kept = load_stored_schedule(json.loads(json.dumps(store_schedule(schedule))), present)
    assert replace(kept, step=schedule.step) == schedule and kept.in_hand is schedule.in_hand
    row = Delivery(profile_id=schedule.profile_id)
    write_schedule(row, schedule)
    assert load_schedule(row) == schedule
