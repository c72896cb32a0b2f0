"""What lies at a border: just at a limit, one below and one above it. All numbers are invented, or the rule's own."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from zoneinfo import ZoneInfo

import pytest

from menudo_core.catalogue.events import Availability
from menudo_core.catalogue.mapping import Field, parse_row, with_currency
from menudo_core.insight.posting_times import better_posting_times
from menudo_core.insight.spacing import Kind, ScheduledItem, SpacingPreferences, spacing_advice
from menudo_core.insight.tags import PublishedPost, TagPerformance, tag_performance
from menudo_core.insight.top_posts import top_posts
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import Box, MediaPresentation, crop_to, fitted_size
from menudo_core.media.shapes import format_bytes, format_ratio
from menudo_core.networks.check import check_content
from menudo_core.networks.content import Card, Content
from menudo_core.networks.fixes import Fix, apply_fix
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.proof import build_proof
from menudo_core.networks.ratios import ratio_presets
from menudo_core.networks.sheet import KindRule, StoryRule
from menudo_core.plans.dates import split_moment
from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.rota import Rota, RotaSlot, Turn
from menudo_core.sending.decision import Backoff
from menudo_core.signoff.schedule import Schedule, SendStep, unschedule
from menudo_core.signoff.states import DeliveryState, Event
from menudo_core.timing.default_slots import default_slots
from menudo_core.timing.slots import Slot, slots_between
from menudo_core.timing.spread import Waking, apply_jitter
from menudo_core.wording.suggest import TagKnowledge, suggest_hashtags

MADRID = ZoneInfo("Europe/Madrid")
MONDAY = datetime(2026, 11, 23, 12, tzinfo=UTC)
MINUTE, DAY = timedelta(minutes=1), timedelta(days=1)
SHEETS = shipped_sheets()
PICTURE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1600, 900, 1_000_000, alt="Moss")
VIDEO = MediaFacts(9, MediaKind.VIDEO, "mp4", 360, 640, 1_000_000, 9.0, "Round", "h264")


def out(*earned: float | None, profile: int = 1, start: int = 0, tags: str = "") -> list[PublishedPost]:
    return [PublishedPost(start + n, profile, frozenset(tags.split()), value) for n, value in enumerate(earned)]


def test_a_post_is_better_than_usual_beside_five_measured_ones_of_its_profile():
    five, four = out(10, 10, 10, 10, 20, None), out(1, 1, 1, 50, profile=2, start=10)
    assert [(one.post_id, one.earned) for one in top_posts([*five, *four], 9)] == [(4, 20)]
    assert top_posts(five, 9)[0].times_usual == pytest.approx(20 / 12)
    assert top_posts(out(5, 5, 5, 5, 5), 9) == [], "as usual is not better"
    # Of two that did alike the first comes first; of one at two profiles it is the mean of both.
    level = [*out(1, 1, 1, 3, 3, 3), *out(2, 2, 2, 2, 2, 8, profile=2)]
    assert [one.post_id for one in top_posts(level, 3)] == [5, 3, 4]
    assert top_posts(level, 1)[0].times_usual == pytest.approx((3 / 2 + 8 / 3) / 2)
    assert top_posts(level, 1)[0].earned == 11


def test_a_tags_past_is_told_from_three_posts_on_among_twenty():
    def past(with_tag: int, others: int) -> TagPerformance:
        return tag_performance([*out(*[30] * with_tag, tags="moss"), *out(*[10] * others, start=50, tags="fern")])[
            "moss"
        ]

    assert past(3, 17).times_usual is not None and past(2, 18).times_usual is None is past(3, 16).times_usual
    assert (past(2, 18).posts, past(2, 18).earned) == (2, 30)


def test_posting_times_are_told_from_twenty_posts_at_three_times():
    def told(per_time: tuple[int, ...]) -> str:
        at = [(MONDAY + n * timedelta(hours=3), count) for n, count in enumerate(per_time)]
        results = [(when + 7 * k * DAY, 100.0 if when == MONDAY else 10.0 + k) for when, n in at for k in range(n)]
        found = better_posting_times(results, MADRID)
        return found.unavailable_reason if not found.cells else f"{len(found.cells)} times"

    assert told((7, 6, 6)) == "Not enough to say: 19 posts with results, and it takes 20."
    assert told((7, 7, 6)) == "3 times"
    assert "too few different times" in told((10, 10))
    assert "each only once" in told((1,) * 20)


def test_a_repetition_is_one_within_the_days_and_none_at_their_end():
    def kinds(apart: timedelta) -> list[Kind]:
        going = [
            ScheduledItem(1, 1, MONDAY, media=frozenset({7})),
            ScheduledItem(2, 1, MONDAY + apart, media=frozenset({7})),
        ]
        wish = {1: SpacingPreferences(repeat_days=3)}
        return [a.kind for a in spacing_advice(going, wish, {1: MADRID}, date(2026, 11, 23), date(2026, 12, 6))]

    assert kinds(3 * DAY - MINUTE) == [Kind.MEDIA] and kinds(3 * DAY) == []


@pytest.mark.parametrize(
    ("size", "words"),
    [(999, "999 bytes"), (1000, "1 kB"), (999_999, "1000 kB"), (1_000_000, "1 MB"), (1_250_000, "1.2 MB")],
)
def test_sizes_in_the_units_people_say(size, words):
    assert format_bytes(size) == words


@pytest.mark.parametrize(
    ("shape", "words"),
    [
        ((1600, 900), "16:9"),
        ((2100, 900), "21:9"),
        ((30, 29), "30:29"),
        ((3100, 100), "31.0:1"),
        ((100, 3100), "1:31.0"),
    ],
)
def test_ratios_as_people_say_them(shape, words):
    assert format_ratio(*shape) == words


def test_a_picture_is_never_fitted_to_nothing_and_a_shape_at_the_grace_stays_whole():
    assert fitted_size(4000, 1, KindRule(1, ("jpeg",), max_width=10)) == (10, 1)
    assert fitted_size(1, 4000, KindRule(1, ("jpeg",), max_height=10)) == (1, 10)
    assert crop_to(995, 1000, 1.0, None).is_whole and not crop_to(994, 1000, 1.0, None).is_whole
    assert crop_to(1005, 1000, None, 1.0).is_whole and not crop_to(1006, 1000, None, 1.0).is_whole


def shape_stops(width: int, height: int, **rule: float) -> bool:
    sheet = SHEETS["brisk"]
    kinds = {**sheet.media.kinds, MediaKind.PICTURE: replace(sheet.media.kinds[MediaKind.PICTURE], **rule)}
    narrow = replace(sheet, media=replace(sheet.media, kinds=kinds))
    media = [replace(PICTURE, width=width, height=height)]
    return "shape" in {f.rule for f in check_content(Content("Moss", (1,)), media, narrow)}


def test_half_a_per_cent_beyond_a_networks_shapes_is_let_pass():
    assert [shape_stops(w, 1000, min_ratio=1.0, max_ratio=None) for w in (995, 994)] == [False, True]
    assert [shape_stops(w, 1000, min_ratio=None, max_ratio=1.0) for w in (1005, 1006)] == [False, True]


def test_presets_are_the_usual_shapes_that_a_sheet_takes_or_the_middle_of_what_it_takes():
    def labels(**rule: float | None) -> list[str]:
        sheet = SHEETS["guildhall"]
        kinds = {MediaKind.PICTURE: replace(sheet.media.kinds[MediaKind.PICTURE], **rule)}
        return [p.label for p in ratio_presets(replace(sheet, story=None, media=replace(sheet.media, kinds=kinds)))]

    assert labels(min_ratio=None, max_ratio=None) == ["1:1", "4:5", "3:4", "2:3", "9:16", "5:4", "4:3", "3:2", "16:9"]
    assert labels(min_ratio=0.8, max_ratio=1.0) == ["1:1", "4:5"]
    assert labels(min_ratio=0.803, max_ratio=1.0) == ["1:1", "4:5"], "within half a per cent"
    assert labels(min_ratio=0.805, max_ratio=1.0) == ["1:1"]
    assert labels(min_ratio=1.0, max_ratio=1.245) == ["1:1", "5:4"] and labels(min_ratio=1.0, max_ratio=1.24) == ["1:1"]
    assert labels(min_ratio=2.0, max_ratio=3.0) == ["5:2"]
    assert labels(min_ratio=2.0, max_ratio=None) == ["2:1"] and labels(min_ratio=None, max_ratio=0.5) == ["1:2"]


@pytest.mark.parametrize(
    ("low", "high", "shape"),
    [
        (None, None, (9, 16)),
        (9 / 16, 9 / 16, (9, 16)),
        (0.6, 0.8, (7, 10)),
        (None, 0.5, (1, 2)),
        (0.75, None, (3, 4)),
    ],
)
def test_a_storys_shape_is_nine_to_sixteen_or_the_nearest_that_is_taken(low, high, shape):
    story = next(sheet.story for sheet in SHEETS.values() if sheet.story is not None)
    assert isinstance(story, StoryRule)
    assert replace(story, min_ratio=low, max_ratio=high).shape == shape


def test_of_tags_too_many_the_first_stay_counted_over_text_and_comment():
    sheet = SHEETS["vitrine"]
    most = sheet.hashtags.max_count
    assert most
    tags = " ".join(f"#a{n}" for n in range(most - 1))
    content = Content(f"Moss {tags}", (1,), first_comment="#b1 #b2 #b3")
    (finding,) = [f for f in check_content(content, [PICTURE], sheet) if f.rule == "hashtags" and f.level == "stops"]
    assert (finding.limit, finding.actual) == (str(most), str(most + 2))
    mended = apply_fix(Fix.FEWER_TAGS, finding, content, [PICTURE], sheet)
    assert (mended.text, mended.first_comment) == (f"Moss {tags}", "#b1")
    full = replace(content, text=f"Moss {tags} #last #more")
    mended = apply_fix(Fix.FEWER_TAGS, finding, full, [PICTURE], sheet)
    assert (mended.text, mended.first_comment) == (f"Moss {tags} #last", "")


def test_of_two_kinds_the_first_stays_with_what_may_stand_beside_it():
    content = Content("Moss", (1, 9, 2))
    media = [PICTURE, VIDEO, replace(PICTURE, asset=2)]
    for sheet in (SHEETS["brisk"], SHEETS["plaza"], SHEETS["guildhall"]):
        (finding,) = [f for f in check_content(content, media, sheet) if f.rule == "together"]
        assert apply_fix(Fix.ONE_KIND, finding, content, media, sheet).media == (1, 2)
        assert apply_fix(Fix.ONE_KIND, finding, content, [VIDEO, PICTURE], sheet).media == (9,)


def test_a_proof_has_two_pictures_a_row_one_or_a_carousel_in_one_shape():
    five = [replace(PICTURE, asset=n, width=1000 * n, height=1000) for n in range(1, 6)]
    content = Content("Moss", tuple(range(1, 6)))

    def proof(pictures: str, crop: float | None):
        sheet = SHEETS["plaza"]
        return build_proof(content, five, replace(sheet, proof=replace(sheet.proof, pictures=pictures, crop=crop)))

    rows = proof("rows", None).rows
    assert [[p.asset for p in row] for row in rows] == [[1, 2], [3, 4], [5]]
    assert [round(p.share, 3) for p in rows[0]] == [0.333, 0.667]
    assert [[p.asset for p in row] for row in proof("one", None).rows] == [[1]]
    (carousel,) = proof("carousel", None).rows
    assert {(p.width, p.height) for p in carousel} == {(1000, 1000)}
    assert {(p.width, p.height) for p in proof("carousel", 0.8).rows[0]} == {(8000, 10_000)}


def test_a_proof_shows_no_card_where_pictures_go_and_words_at_the_foot():
    card = Card("Moss week", "Forty kinds")
    content = Content("Moss", link="https://example.org", card=card)
    assert build_proof(content, [], SHEETS["brisk"]).card == card
    assert build_proof(replace(content, link=" "), [], SHEETS["brisk"]).card is None
    with_picture = replace(content, media=(1,), shown={1: MediaPresentation(words="Now", crop=Box(0.5, 0, 0.5, 1))})
    proof = build_proof(with_picture, [PICTURE], SHEETS["brisk"])
    assert proof.card is None and (proof.rows[0][0].words, proof.rows[0][0].words_at) == ("Now", "foot")
    top = replace(with_picture, shown={1: MediaPresentation(words_at="top")})
    assert build_proof(top, [PICTURE], SHEETS["brisk"]).rows[0][0].words_at == "top"


def test_a_rota_lets_a_turn_go_again_when_its_rest_is_over_to_the_day():
    def laid(rest: int, fixed_on: int) -> list[int | None]:
        slots = [RotaSlot(MONDAY + n * DAY, (MONDAY + n * DAY).date()) for n in range(fixed_on + 1)]
        fixed = {slots[fixed_on].at: 1}
        return [one.turn for one in assign_turns(Rota(rest_days=rest), [Turn(1)], 7, slots, fixed=fixed)]

    assert laid(2, 2) == [1, None, 1] and laid(3, 2) == [None, None, 1]


def test_jitter_stays_after_now_and_inside_the_waking_hours():
    noon, waking = MONDAY, Waking(time(12), time(14))
    found = {apply_jitter(noon, 5, seed, MADRID, noon - 2 * MINUTE, waking) for seed in range(200)}
    assert found == {noon + n * MINUTE for n in range(-1, 6)}, "what is now has passed"
    # It is 13:00 in Madrid: the hours begin with their first minute, and end before their last.
    assert (
        min(apply_jitter(noon - 58 * MINUTE, 5, s, MADRID, noon - DAY, waking) for s in range(200))
        == noon - 60 * MINUTE
    )
    assert (
        max(apply_jitter(noon + 58 * MINUTE, 5, s, MADRID, noon - DAY, waking) for s in range(200))
        == noon + 59 * MINUTE
    )


def test_slots_from_the_very_start_to_before_the_very_end():
    daily = [Slot(day, time(13)) for day in range(7)]
    assert slots_between(daily, MONDAY, MONDAY + 2 * DAY, MADRID) == [MONDAY, MONDAY + DAY]
    assert slots_between(daily, MONDAY + MINUTE, MONDAY + DAY + MINUTE, MADRID) == [MONDAY + DAY]
    assert slots_between([], MONDAY, MONDAY + 9 * DAY, MADRID) == []


def test_first_timetables_are_those_of_the_networks_use():
    def told(use: str) -> list[tuple[int, str]]:
        return [(slot.weekday, slot.at.isoformat("minutes")) for slot in default_slots(use)]

    assert told("listing") == [(0, "10:00"), (3, "10:00")] and told("photo") == [(d, "18:30") for d in range(7)]
    assert told("video") == [(3, "17:00"), (6, "11:00")] and told("board") == [(0, "20:00"), (2, "20:00"), (5, "20:00")]
    assert told("professional") == [(d, "08:30") for d in (1, 2, 3)] and told("?") == [(d, "12:00") for d in range(5)]
    assert told("page") == [*((d, "12:30") for d in range(5)), (5, "11:00"), (6, "11:00")]
    assert [at for day, at in told("short") if day == 4] == ["09:00", "13:00", "18:00"] and (6, "11:00") in told(
        "short"
    )


def test_a_catalogues_row_at_its_edges():
    mapping = {field: field.value for field in Field}

    def read(**cells: str):
        return parse_row(
            {"key": "1", "title": "Loaf", **cells} | {Field.KEY.value: "1", Field.TITLE.value: "Loaf"}, mapping
        )

    priced = read(**{Field.PRICE.value: "4.50"})
    assert priced.item.price == Decimal("4.50") and with_currency(priced, "EUR").item.currency == "EUR"
    assert with_currency(read(**{Field.PRICE.value: "4", Field.CURRENCY.value: "usd"}), "EUR").item.currency == "USD"
    assert with_currency(read(), "EUR").item.currency == ""
    assert read(**{Field.STANDING.value: "https://schema.org/SoldOut"}).item.availability is Availability.SOLD
    long, fits = "https://a.example/" + "x" * 1983, "https://a.example/" + "x" * 1982
    assert (read(**{Field.LINK.value: fits}).link, read(**{Field.LINK.value: long}).link) == (fits, "")
    assert read(**{Field.LINK.value: "ftp://a.example"}).link == ""


def test_suggested_tags_weigh_what_is_near_above_what_did_well_elsewhere():
    past = {"moss": TagPerformance(4, 12.0, 1.0), "garden": TagPerformance(10, 12.0, 1.0), "once": TagPerformance(1)}
    weights = {s.tag: s.weight for s in suggest_hashtags("Moss on the wall", TagKnowledge(past=past), 9)}
    assert weights == pytest.approx({"moss": 2.4, "garden": 1.5})
    assert {s.tag for s in suggest_hashtags("gas gas buses", TagKnowledge(topics=("gas",)), 9)} == {"gas"}


def test_a_moment_is_a_date_and_what_stands_behind_it():
    assert split_moment(" 2026-12-01 15:00 ") == ("2026-12-01", "15:00") and split_moment("tomorrow") == (
        "tomorrow",
        "",
    )


def test_waits_double_from_half_to_all_of_each_up_to_the_longest():
    back = Backoff(timedelta(seconds=20), timedelta(minutes=2))
    seconds = [[back.delay(tried, dice).total_seconds() for dice in (0, 0.5, 1)] for tried in (1, 2, 3, 4, 99)]
    assert seconds == [[10, 15, 20], [20, 30, 40], [40, 60, 80], [60, 90, 120], [60, 90, 120]]


def test_what_is_taken_off_is_in_nobodys_hand_and_keeps_how_far_sending_got():
    planned = Schedule(1, DeliveryState.PLANNED, MONDAY, MONDAY.replace(tzinfo=None), "Europe/Madrid", 3, 2, 7, tries=2)
    by_step = {step: unschedule(replace(planned, step=step), Event.UNPLAN) for step in SendStep}
    assert {step: off.step for step, off in by_step.items()} == {
        **{s: s for s in SendStep},
        SendStep.HAND: SendStep.NONE,
    }
    off = by_step[SendStep.HAND]
    assert (off.was_due, off.due_at, off.wall_time, off.delay, off.jitter, off.seed) == (MONDAY, None, None, 0, 0, None)
    assert (off.tries, off.zone) == (2, "Europe/Madrid")
