"""Sizes and shapes just at a limit, one below and one above it. All numbers are invented, or the rule's own."""

from dataclasses import replace

import pytest

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import crop_to, fitted_size
from menudo_core.media.shapes import format_bytes, format_ratio
from menudo_core.networks.check import check_content
from menudo_core.networks.content import Content
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.ratios import drawing_size, ratio_presets
from menudo_core.networks.sheet import KindRule, StoryRule

SHEETS = shipped_sheets()
PICTURE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1600, 900, 1_000_000, alt="Moss")


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
        ((1080, 1080), "1:1"),
        ((1010, 1000), "1:1"),
        ((1011, 1000), "1.0:1"),
        ((800, 1000), "4:5"),
        ((1000, 800), "5:4"),
        ((750, 1000), "3:4"),
        ((1000, 750), "4:3"),
        ((800, 1200), "2:3"),
        ((1200, 800), "3:2"),
        ((900, 1600), "9:16"),
        ((2000, 1000), "2:1"),
        ((1000, 2000), "1:2"),
        ((3000, 1000), "3:1"),
        ((1000, 3000), "1:3"),
        ((30, 29), "30:29"),
        ((29, 30), "29:30"),
        ((31, 29), "1.1:1"),
        ((29, 31), "1:1.1"),
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


def test_a_shape_hardly_wrong_is_told_in_figures_that_show_it():
    def told(width: int) -> tuple[str, str]:
        sheet = SHEETS["brisk"]
        rule = replace(sheet.media.kinds[MediaKind.PICTURE], min_ratio=0.8, max_ratio=None)
        one = replace(sheet, media=replace(sheet.media, kinds={MediaKind.PICTURE: rule}))
        [finding] = [
            f
            for f in check_content(Content("Moss", (1,)), [replace(PICTURE, width=width, height=1000)], one)
            if f.rule == "shape"
        ]
        return finding.actual, finding.limit

    assert told(793) == ("0.793:1", "0.800:1 to any") and told(700) == ("7:10", "4:5 to any")


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
