"""More of what lies at a border: rows and names of a table, rotas, stories, spreads, holidays. All numbers are invented, or the rule's own."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest

from menudo_core.almanac.public_holidays import public_holidays
from menudo_core.insight.posting_times import SIGNIFICANCE, Cell, PostingTimes, suggested_slots
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.check import check_content
from menudo_core.networks.content import STORY, Content
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.ratios import drawing_size
from menudo_core.plans.lists import split_names
from menudo_core.plans.rows import parse_rows
from menudo_core.plans.table import parse_table
from menudo_core.rotas.assignment import assign_turns
from menudo_core.rotas.rota import PastTurn, Rota, RotaSlot, Turn
from menudo_core.timing.slots import Slot
from menudo_core.timing.spread import Waking, apply_jitter
from menudo_core.wording.builtin import BuiltInWriter
from menudo_core.wording.writer import CannotWriteError, TaskKind, WritingTask

MADRID = ZoneInfo("Europe/Madrid")
DAY, MINUTE = timedelta(days=1), timedelta(minutes=1)
FIRST = datetime(2026, 11, 23, 9, tzinfo=UTC)
FRAME = MediaFacts(1, MediaKind.PICTURE, "jpeg", 900, 1600, 1_000_000, alt="Moss")
FILM = MediaFacts(2, MediaKind.VIDEO, "mp4", 900, 1600, 1_000_000, 9.0, "Round", "h264")


@pytest.mark.parametrize(
    ("cell", "names"),
    [
        ("a", ("a",)),
        ("a;", ("a",)),
        (";a;;b", ("a", "b")),
        ("a|b\na", ("a", "b")),
        ('"a;b"; c', ("a;b", "c")),
        ('"say ""hi"""', ('say "hi"',)),
        ("", ()),
    ],
)
def test_names_in_a_cell(cell, names):
    assert split_names(cell) == names


def test_a_row_may_have_fewer_cells_than_the_header_and_more_where_they_are_blank():
    head = "date,profiles,text,labels\n"

    def faults(row: str) -> list[str]:
        (found,) = parse_rows(parse_table((head + row).encode()), [])
        return [fault.message for fault in found.faults]

    assert (
        faults("2026-12-01,a,Moss\n")
        == []
        == faults("2026-12-01,a,Moss,Talks\n")
        == faults("2026-12-01,a,Moss,Talks, ,\n")
    )
    assert [words[:28] for words in faults("2026-12-01,a,Moss,Talks,x\n")] == ["The row has more cells than "]


def laid(rota: Rota, turns: list[Turn], days: int, **how) -> list:
    slots = [RotaSlot(FIRST + n * DAY, (FIRST + n * DAY).date()) for n in range(days)]
    return assign_turns(rota, turns, 7, slots, **how)


def test_a_rota_goes_on_in_the_round_and_with_the_wording_it_had():
    yesterday = (FIRST - DAY).date()
    two = [Turn(1, wordings=2), Turn(2)]
    on = laid(Rota(), two, 3, past=[PastTurn(1, yesterday, 3)])
    assert [(one.turn, one.wording, one.round) for one in on] == [(2, 0, 3), (1, 1, 4), (2, 0, 4)]
    fresh = laid(Rota(), two, 2)
    assert [(one.turn, one.wording, one.round) for one in fresh] == [(1, 0, 0), (2, 0, 0)]
    # Of a turn that is gone, only that something went out that day is known.
    apart = laid(Rota(gap_days=2), two, 3, past=[PastTurn(99, yesterday, 0)])
    assert [one.turn for one in apart] == [None, 1, None]


def test_so_many_times_and_until_that_day_and_no_more():
    assert [one.turn for one in laid(Rota(), [Turn(1, times=2)], 3)] == [1, 1, None]
    until = [Turn(1, until=(FIRST + DAY).date())]
    assert [one.turn for one in laid(Rota(), until, 3)] == [1, 1, None]
    ends = Rota(until=(FIRST + DAY).date())
    assert [one.turn for one in laid(ends, [Turn(1)], 3)] == [1, 1, None]
    closed = Rota(closed=frozenset({FIRST.date()}))
    assert [one.turn for one in laid(closed, [Turn(1)], 2)] == [None, 1]


def story(network: str, frames: list[MediaFacts], followers: int | None = None, link: str = "") -> dict[str, str]:
    """What stops a story, and where."""
    content = Content("", tuple(m.asset for m in frames), link=link, form=STORY)
    found = check_content(content, frames, shipped_sheets()[network], followers=followers)
    return {f"{f.rule} {f.field}": f.message for f in found if f.level == "stops"}


def test_a_storys_frames_at_their_borders():
    rule = shipped_sheets()["vitrine"].story
    assert rule is not None and rule.max_seconds is not None
    frames = [replace(FRAME, asset=n) for n in range(1, rule.max_frames + 2)]
    assert story("vitrine", frames[:-1]) == {}
    (many,) = story("vitrine", frames).values()
    assert f"takes {rule.max_frames} frames at a time; this has {rule.max_frames + 1}. Take out 1." in many
    assert story("vitrine", [replace(FILM, seconds=rule.max_seconds)]) == {}
    long = story("vitrine", [FRAME, replace(FILM, seconds=rule.max_seconds + 1)])
    assert list(long) == ["too_long media/1"] and long["too_long media/1"].startswith("Frame 2 lasts")
    assert list(story("vitrine", [])) == ["required media"]
    wide = story("vitrine", [replace(FRAME, width=1600, height=900)])
    assert list(wide) == ["shape media/0"] and wide["shape media/0"].startswith("Frame 1 is 16:9")


def test_a_drawn_pictures_size_is_the_first_usual_shape_that_all_take():
    sheets = shipped_sheets()
    sheet = sheets["guildhall"]

    def only(low: float, high: float):
        kinds = {MediaKind.PICTURE: replace(sheet.media.kinds[MediaKind.PICTURE], min_ratio=low, max_ratio=high)}
        return replace(sheet, story=None, media=replace(sheet.media, kinds=kinds))

    assert drawing_size([]) == (1080, 1350) and drawing_size([only(0.5, 2)]) == (1080, 1350)
    sizes = {
        (w, h): drawing_size([only(w / h, w / h)])
        for w, h in ((1, 1), (5, 4), (4, 3), (3, 4), (3, 2), (2, 3), (16, 9), (9, 16))
    }
    assert sizes == {(w, h): (1080, round(1080 * h / w)) for w, h in sizes}
    assert drawing_size([only(0.9, 1.1), only(0.5, 2)]) == (1080, 1080)
    assert drawing_size([only(2.4, 2.6)]) == (1080, 432) and drawing_size([only(2.4, 2.6), only(1, 1)]) == (1080, 1080)


def test_jitter_on_a_night_of_a_clock_change_goes_by_what_the_clock_shows():
    # IANA: Madrid goes back from +2 to +1 at 01:00 UTC on 25 October 2026.
    at = datetime(2026, 10, 25, 1, 2, tzinfo=UTC)
    waking = Waking(time(1, 55), time(2, 50))
    found = {apply_jitter(at, 5, seed, MADRID, at - DAY, waking) for seed in range(200)}
    assert found == {at + n * MINUTE for n in range(-2, 6)}, "before the change the clock shows 02:57"


def test_a_cell_is_better_where_it_lies_above_the_usual_and_chance_seldom_does_that():
    cell = Cell(0, 9, 5, 12.0, 12.0, 11.0, 13.0, 0.1, SIGNIFICANCE)
    assert cell.is_significant and not replace(cell, lift=0.0).is_significant
    assert not replace(cell, chance=SIGNIFICANCE + 0.001).is_significant
    cells = tuple(replace(cell, weekday=day, hour=hour) for day, hour in ((0, 9), (0, 12), (0, 11), (6, 23), (6, 22)))
    told = [(s.weekday, s.at.hour) for s in suggested_slots(PostingTimes(cells, 30), 3, 3)]
    assert told == [(0, 9), (0, 12), (6, 23)]
    # A week goes round: from Sunday at 23 to Monday at one it is two hours.
    assert suggested_slots(PostingTimes(cells[3:4], 30), 3, 3, [Slot(0, time(1))]) == []
    assert len(suggested_slots(PostingTimes(cells[3:4], 30), 3, 2, [Slot(0, time(1))])) == 1


def test_holidays_are_told_within_the_years_that_laws_say_something_of():
    christmas = [date(year, 12, 25) for year in (1899, 1900, 2026)]
    assert [bool(public_holidays(["PT"], day, day)) for day in christmas] == [False, True, True]
    assert public_holidays(["??"], christmas[1], christmas[1]) == []


def test_nothing_is_written_of_a_link_that_says_nothing():
    with pytest.raises(CannotWriteError):
        BuiltInWriter().propose(WritingTask(TaskKind.FROM_LINK, "", link="https://a.example/x"), 1)
