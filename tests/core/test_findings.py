"""Findings at, below and above each limit of a sheet."""

from dataclasses import replace

import pytest

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.shapes import format_bytes, format_ratio
from menudo_core.networks.check import check_content
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.networks.findings import Level
from menudo_core.networks.load import InvalidSheetError, parse_sheet, shipped_sheets
from menudo_core.networks.proof import build_proof

BRISK = shipped_sheets()["brisk"]
FINE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1200, 900, 1_000_000, alt="Moss")


def stops(text: str = "Moss", media: tuple[MediaFacts, ...] = (), network: str = "brisk", **more) -> set[str]:
    content = Content(text=text, media=tuple(m.asset for m in media), **more)
    return {f.rule for f in check_content(content, media, shipped_sheets()[network]) if f.level is Level.STOPS}


def advice(text: str, media: tuple[MediaFacts, ...] = ()) -> set[str]:
    return {
        f.rule
        for f in check_content(Content(text, tuple(m.asset for m in media)), media, BRISK)
        if f.level is Level.ADVICE
    }


@pytest.mark.parametrize(("length", "found"), [(299, set()), (300, set()), (301, {"too_long"})])
def test_text_below_at_and_above_the_limit(length, found):
    assert stops("🌿" * length) == found


def test_the_finding_says_the_limit_what_is_there_and_what_to_do():
    (finding,) = check_content(Content("x" * 327), [], BRISK)
    assert finding.message == "Brisk takes 300 characters; this has 327. Take out 27."
    assert (finding.limit, finding.actual, finding.field) == ("300", "327", "text")


@pytest.mark.parametrize(("count", "found"), [(3, set()), (4, set()), (5, {"media_count"})])
def test_pictures_below_at_and_above_four(count, found):
    # Common practice, no published source: up to 4 pictures in a short-text post.
    assert stops(media=(FINE,) * count) == found


@pytest.mark.parametrize(
    ("change", "found"),
    [
        ({"size": 5_000_000}, set()),
        ({"size": 5_000_001}, {"bytes"}),
        ({"width": 200, "height": 200}, set()),
        ({"width": 199, "height": 200}, {"too_small"}),
        ({"width": 6000, "height": 6000}, set()),
        ({"width": 6001, "height": 6000}, {"too_large"}),
        ({"width": 1000, "height": 400}, set()),
        ({"width": 1020, "height": 400}, {"shape"}),
        ({"width": 400, "height": 1000}, set()),
        ({"width": 395, "height": 1000}, {"shape"}),
        ({"format": "mp4"}, {"format"}),
        ({"alt": "x" * 400}, set()),
        ({"alt": "x" * 401}, {"alt_long"}),
    ],
)
def test_one_picture_below_at_and_above_each_limit(change, found):
    assert stops(media=(replace(FINE, **change),)) == found


@pytest.mark.parametrize(("seconds", "found"), [(140.0, set()), (140.5, {"too_long"})])
def test_a_videos_length(seconds, found):
    video = MediaFacts(2, MediaKind.VIDEO, "mp4", 1280, 720, 9_000_000, seconds, "Film")
    assert stops(media=(video,)) == found


def test_kinds_that_dont_go_together():
    video = MediaFacts(2, MediaKind.VIDEO, "mp4", 1280, 720, 9_000_000, 10, "Film")
    assert stops(media=(FINE, video)) == {"together"}


def test_nothing_to_post_and_what_a_network_needs_or_forbids():
    assert stops("") == {"empty"}
    assert stops(" \n") == {"empty"}
    assert stops("Words alone", network="vitrine") == {"required"}
    assert stops("Words", first_comment="#moss") == {"forbidden"}
    assert stops("Words", (FINE,), "tackboard") == {"required"}


def test_fields_of_a_networks_own():
    needs = {"link": "https://example.org", "fields": {"title": "x" * 100, "board": "Ferns"}}
    assert stops("Pin", (FINE,), "tackboard", **needs) == set()
    needs["fields"]["title"] = "x" * 101
    assert stops("Pin", (FINE,), "tackboard", **needs) == {"too_long"}
    assert stops("Open", network="waypost", fields={"listing_kind": "party"}) == {"choice"}


def test_hashtags_good_practice_and_the_hard_limit():
    # Common practice, no published source: at most 2 on short text; up to 30 on a photo network.
    assert advice("#a1 #b1") == set()
    assert advice("#a1 #b1 #c1") == {"hashtags"}
    tags = " ".join(f"#moss{n}" for n in range(31))
    assert "hashtags" in stops(tags, (FINE,), "vitrine")
    assert "hashtags" not in stops(tags.rsplit(" ", 1)[0], (FINE,), "vitrine")


def test_a_picture_without_alt_text_is_advice_at_that_picture():
    found = check_content(Content("x", (1, 2)), [FINE, replace(FINE, asset=2, alt=" ")], BRISK)
    assert [(f.rule, f.field, f.level) for f in found] == [("alt", "media/1", Level.ADVICE)]


def test_text_with_nul_or_half_a_character_stops():
    assert stops("a\0b") == {"unusable"}
    assert stops("a\ud83cb") == {"unusable"}


def test_all_nine_sheets_load_and_hold_the_trades_numbers():
    # Common practice, no published source (30 pictures on a page; listing: 10 photos, 7 days, 100 posts, 10 locations).
    sheets = shipped_sheets()
    assert len(sheets) == 10
    assert sheets["plaza"].media.kinds[MediaKind.PICTURE].max_count == 30
    way = sheets["waypost"]
    numbers = (
        way.media.kinds[MediaKind.PICTURE].max_count,
        way.life_days,
        way.pace.posts_kept,
        way.pace.locations_at_once,
    )
    assert numbers == (10, 7, 100, 10)
    assert not next(k for k in sheets["plaza"].kinds if k.kind == "personal").direct


def test_a_bad_sheet_is_told_with_every_fault_at_its_place():
    with pytest.raises(InvalidSheetError) as bad:
        parse_sheet(
            'format = 1\nnetwork = "x y"\nname = "X"\n[text]\nunit = "words"\nlimit = 0\n[[kinds]]\nkind = "a"\nname = "A"\ndirect = "no"\n'
        )
    assert {e.path for e in bad.value.errors} == {"", "network", "text.unit", "text.limit", "kinds.0.direct"}
    with pytest.raises(InvalidSheetError, match="Not readable as TOML"):
        parse_sheet("format = ")


def test_a_version_inherits_what_it_has_not_of_its_own():
    master = Content("Master", (1, 2), "https://example.org")
    assert apply_overrides(master, Overrides()) == master
    assert apply_overrides(master, Overrides(text="", media=())) == Content("", (), "https://example.org")


def test_a_proof_keeps_every_pictures_shape_and_shares_rows_by_it():
    wide, tall = replace(FINE, width=1600, height=800), replace(FINE, asset=2, width=500, height=1000)
    seen = build_proof(Content("Moss\n" * 20, (1, 2, 1)), [wide, tall, wide], BRISK)
    first, last = seen.rows
    assert [(p.width, p.height) for p in first] == [(1600, 800), (500, 1000)]
    heights = [p.share * p.height / p.width for p in first]
    assert heights[0] == pytest.approx(heights[1])
    assert last[0].share == 1
    assert seen.visible_text.count("\n") == 11 and seen.folded_text


@pytest.mark.parametrize(
    ("size", "words"),
    [
        ((1080, 1350), "4:5"),
        ((1920, 1080), "16:9"),
        ((1200, 900), "4:3"),
        ((500, 500), "1:1"),
        ((1500, 340), "4.4:1"),
        ((340, 1500), "1:4.4"),
    ],
)
def test_shapes_as_people_say_them(size, words):
    assert format_ratio(*size) == words


def test_sizes_as_people_say_them():
    assert [format_bytes(n) for n in (900, 12_000, 8_000_000, 12_400_000)] == ["900 bytes", "12 kB", "8 MB", "12.4 MB"]


def listing(**fields: str) -> set[str]:
    return stops("Bread", network="waypost", fields={"listing_kind": "update", **fields})


def test_a_button_needs_a_link_but_to_call_does_not():
    # Common practice, no published source.
    assert listing(button="buy") == {"button_link"} and listing(button="call") == set()
    fields = {"listing_kind": "update", "button": "book"}
    assert stops("Bread", network="waypost", fields=fields, link="https://example.org") == set()
    offer = {"title": "Loaf", "start": "2026-12-01T08:00", "end": "2026-12-02T08:00", "button": "get offer"}
    assert listing(**{**offer, "listing_kind": "offer"}) == {"button_link"}
    assert listing(**{**offer, "listing_kind": "offer", "offer_link": "https://example.org/loaf"}) == set()


@pytest.mark.parametrize(
    ("start", "end", "found"),
    [
        ("2026-12-01T08:00", "2026-12-01T08:01", set()),
        ("2026-12-01T08:00", "2026-12-01T08:00", {"order"}),
        ("2026-12-01T08:00", "2026-11-30T08:00", {"order"}),
        ("2026-12-01", "2026-12-02T08:00", {"date"}),
        ("2026-02-30T08:00", "2026-12-02T08:00", {"date"}),
    ],
)
def test_an_event_ends_after_it_starts(start, end, found):
    assert listing(listing_kind="event", title="Rye day", start=start, end=end) == found


def test_an_offer_goes_to_ten_locations_at_once_and_no_more():
    # Common practice, no published source: at most 10 locations at once.
    content = Content("Bread", fields={"listing_kind": "update"})
    for profiles, found in ((10, []), (11, ["locations"])):
        told = check_content(content, [], shipped_sheets()["waypost"], None, profiles)
        assert [f.rule for f in told] == found
    assert told[0].message.endswith("this goes to 11. Untick 1.")


@pytest.mark.parametrize(
    ("field", "value", "found"),
    [
        # ISO 3166-1 and 3166-2, as pycountry ships them.
        ("countries", "ES, pt; fr ES-CT", set()),
        ("countries", "ES, XX", {"places"}),
        ("countries", "ES-ZZ", {"places"}),
        ("ages", "18-35", set()),
        ("ages", "18+", set()),
        ("ages", "12-35", {"ages"}),
        ("ages", "35-18", {"ages"}),
        ("ages", "old", {"ages"}),
    ],
)
def test_whom_a_post_is_for(field, value, found):
    assert stops(network="plaza", fields={field: value}) == found


VIDEO = MediaFacts(2, MediaKind.VIDEO, "mp4", 360, 640, 900_000, 9.0, "Round", "h264")


@pytest.mark.parametrize(
    ("change", "found"),
    [
        ({}, set()),
        ({"seconds": 60.0}, set()),
        ({"seconds": 60.1}, {"too_long"}),
        ({"seconds": 0.5}, {"too_short"}),
        ({"codec": "hevc"}, {"codec"}),
        ({"width": 640, "height": 360}, {"shape"}),
        ({"format": "webm"}, {"format"}),
    ],
)
def test_a_short_videos_length_shape_and_codec(change, found):
    assert stops(media=(replace(VIDEO, **change),), network="vuelta") == found


def test_a_storys_link_needs_followers_on_the_photo_network_only():
    # Common practice, no published source: at least 10,000 followers; no such condition on the page network.
    frame = replace(FINE, width=900, height=1600)
    story = Content("", (1,), "https://example.org", form="story")
    for network, followers, found in (
        ("vitrine", 9_999, {"followers"}),
        ("vitrine", 10_000, set()),
        ("plaza", 3, set()),
    ):
        assert {f.rule for f in check_content(story, [frame], shipped_sheets()[network], followers)} == found
    assert {f.rule for f in check_content(story, [frame], BRISK)} == {"forbidden"}


def test_a_first_comment_is_measured_and_its_tags_are_counted_with_the_texts():
    plaza = shipped_sheets()["plaza"]
    assert [f.field for f in check_content(Content("Moss", first_comment="x" * 5001), [], plaza)] == ["first_comment"]
    (finding,) = check_content(Content("#a1 #b1", first_comment="#c1"), [], plaza)
    assert finding.rule == "hashtags" and finding.actual == "3"
    assert stops(first_comment="#moss") == {"forbidden"}


def test_a_blank_that_is_left_is_told_and_stops_nothing():
    (finding,) = check_content(Content("By ___ at ___"), [], shipped_sheets()["plaza"])
    assert (
        finding.rule == "blank" and finding.level is Level.ADVICE and finding.message.startswith("There are 2 blanks")
    )
