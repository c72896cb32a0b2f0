"""Crops, turns and shapes: geometry checked by numbers and by properties."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import (
    UNCHANGED,
    Box,
    MediaPresentation,
    crop_to,
    cropped_size,
    fitted_size,
    merge_presentation,
    needs_rendering,
    presented_facts,
    rotated_size,
)
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.ratios import ratio_presets
from menudo_core.networks.sheet import KindRule

side = st.integers(1, 8000)
share = st.floats(0, 1)
PICTURE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1600, 900, 2_000_000)


@given(side, side, st.floats(0.2, 3), st.floats(1, 2), share, share)
def test_a_crop_lies_inside_and_has_the_shape_that_is_asked_for(width, height, low, wider, fx, fy):
    box = crop_to(width, height, low, low * wider, (fx, fy))
    assert box.x >= 0 and box.y >= 0 and box.x + box.w <= 1 + 1e-9 and box.y + box.h <= 1 + 1e-9
    ratio = width * box.w / (height * box.h)
    assert low * 0.994 <= ratio <= low * wider * 1.006
    # The largest there is: one side stays whole.
    assert box.w == 1 or box.h == 1


def test_a_crop_stays_around_the_focus_and_stops_at_the_edge():
    assert crop_to(1600, 900, None, 1.0) == Box((1 - 0.5625) / 2, 0, 0.5625, 1)
    assert crop_to(1600, 900, None, 1.0, (0.9, 0.5)).x == pytest.approx(1 - 0.5625)
    assert crop_to(1600, 900, None, 1.0, (0.0, 0.5)).x == 0
    assert crop_to(1000, 1004, 1.0, 1.0).is_whole, "half a per cent of grace, as networks give"


def test_a_quarter_turn_swaps_the_sides_and_a_crop_is_of_the_turned_picture():
    assert rotated_size(1600, 900, 1) == rotated_size(1600, 900, 3) == (900, 1600)
    assert rotated_size(1600, 900, 2) == (1600, 900)
    shown = presented_facts(PICTURE, MediaPresentation(turn=1, crop=Box(0, 0, 1, 0.5)), None)
    assert (shown.width, shown.height, shown.rendered) == (900, 800, True)


@given(side, side, side, side, st.integers(1, 60_000_000))
def test_what_is_fitted_keeps_to_every_limit_and_is_never_larger_than_it_was(width, height, most_w, most_h, pixels):
    rule = KindRule(1, ("jpeg",), max_width=most_w, max_height=most_h, max_pixels=pixels)
    w, h = fitted_size(width, height, rule)
    assert 1 <= w <= max(1, min(width, most_w)) and 1 <= h <= max(1, min(height, most_h))
    assert w * h <= pixels or w == 1 or h == 1


def test_only_pictures_are_drawn_anew_and_only_when_something_is_to_be_done():
    assert not needs_rendering(UNCHANGED) and not needs_rendering(
        MediaPresentation(crop=Box(), turn=4, words="Frost", focus=(0.1, 0.1))
    )
    video = replace(PICTURE, kind=MediaKind.VIDEO, format="mp4")
    assert presented_facts(video, MediaPresentation(turn=1), None) == video
    assert presented_facts(PICTURE, UNCHANGED, None) == PICTURE


def test_a_version_has_parts_of_a_showing_of_its_own_and_inherits_the_others():
    master = MediaPresentation(crop=Box(0, 0, 0.5, 1), words="Frost", turn=1)
    own = merge_presentation(master, MediaPresentation(words="Moss"))
    assert own == MediaPresentation(crop=Box(0, 0, 0.5, 1), words="Moss", turn=1)
    assert merge_presentation(master, UNCHANGED) == master


def test_cropped_never_comes_to_nothing():
    assert cropped_size(3, 3, Box(0, 0, 0.01, 0.01)) == (1, 1)


def test_the_shapes_offered_are_shapes_the_network_takes():
    for sheet in shipped_sheets().values():
        rule = sheet.media.kinds.get(MediaKind.PICTURE)
        for preset in ratio_presets(sheet):
            if preset.form == "story":
                assert sheet.story and sheet.story.min_ratio <= preset.ratio <= sheet.story.max_ratio
            else:
                whole = crop_to(round(preset.ratio * 9000), 9000, rule.min_ratio, rule.max_ratio)
                assert whole.is_whole, (sheet.network, preset)
    assert [p.label for p in ratio_presets(shipped_sheets()["vitrine"])] == [
        "1:1",
        "4:5",
        "5:4",
        "4:3",
        "3:2",
        "16:9",
        "9:16 story",
    ]
    assert ratio_presets(shipped_sheets()["cinta"]) == []
