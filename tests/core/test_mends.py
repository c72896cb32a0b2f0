"""One-step mends: what is offered mends, and changes the one version only."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import Box, MediaPresentation
from menudo_core.networks.check import check_content
from menudo_core.networks.content import STORY, Card, Content, Overrides, apply_overrides
from menudo_core.networks.fixes import Fix, apply_fix, available_fixes, merge_overrides
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.proof import build_proof

PICTURE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1600, 900, 1_000_000, alt="Moss")
VIDEO = MediaFacts(9, MediaKind.VIDEO, "mp4", 360, 640, 1_000_000, 9.0, "Round", "h264")


def pictures(count: int, **more) -> list[MediaFacts]:
    return [replace(PICTURE, asset=n + 1, **more) for n in range(count)]


def after_all(content: Content, media: list[MediaFacts], network: str) -> tuple[Content, set[str], set[Fix]]:
    """Take the first mend offered until none is; the content, what still stops it, and which were taken."""
    sheet, own, taken = shipped_sheets()[network], Overrides(), set()
    known = {m.asset: m for m in media}
    for _ in range(20):
        now = apply_overrides(content, own)
        here = [known[a] for a in now.media]
        found = check_content(now, here, sheet)
        steps = [(m, f) for f in found if f.level == "stops" for m in available_fixes(f, now, here, sheet)]
        if not steps:
            return now, {f.rule for f in found if f.level == "stops"}, taken
        own = merge_overrides(own, apply_fix(steps[0][0], steps[0][1], now, here, sheet))
        taken.add(steps[0][0])
    raise AssertionError("the mends go round in circles")


@pytest.mark.parametrize(
    ("network", "content", "media", "mend"),
    [
        ("brisk", Content("Moss. " * 80, (1,)), pictures(1), Fix.SHORTEN),
        ("brisk", Content("Moss", tuple(range(1, 7))), pictures(6), Fix.FEWER_MEDIA),
        ("brisk", Content("Moss", (1,)), pictures(1, width=6000, height=1000), Fix.CROP),
        ("brisk", Content("Moss", (1,)), pictures(1, size=9_000_000), Fix.FIT),
        ("brisk", Content("Moss", (1,)), pictures(1, width=9000, height=6000), Fix.FIT),
        ("vitrine", Content("Moss", (1,)), pictures(1, format="webp"), Fix.FIT),
        ("brisk", Content("Moss", (1, 9)), [PICTURE, VIDEO], Fix.ONE_KIND),
        ("brisk", Content("Moss", first_comment="#moss"), [], Fix.NO_COMMENT),
        ("vuelta", Content("Round", (9,), "https://example.org"), [VIDEO], Fix.NO_LINK),
        ("vitrine", Content("x " + "#a1 " * 31, (1,)), pictures(1), Fix.FEWER_TAGS),
        ("vitrine", Content("", (1,), form=STORY), pictures(1), Fix.CROP),
        ("plaza", Content("", tuple(range(1, 13)), form=STORY), pictures(12, width=900, height=1600), Fix.FEWER_MEDIA),
    ],
)
def test_a_mend_mends_what_it_is_offered_for(network, content, media, mend):
    _, left, taken = after_all(content, media, network)
    assert left == set() and mend in taken


def test_hashtags_beyond_good_practice_go_to_the_first_comment_where_there_is_one():
    content, sheet = Content("Moss on the wall. #moss #green #wall"), shipped_sheets()["plaza"]
    (finding,) = check_content(content, [], sheet)
    assert available_fixes(finding, content, [], sheet) == (Fix.TAGS_TO_COMMENT, Fix.FEWER_TAGS)
    assert apply_fix(Fix.TAGS_TO_COMMENT, finding, content, [], sheet) == Overrides(
        text="Moss on the wall.", first_comment="#moss #green #wall"
    )
    assert apply_fix(Fix.FEWER_TAGS, finding, content, [], sheet).text == "Moss on the wall. #moss #green"
    brisk = shipped_sheets()["brisk"]
    (finding,) = check_content(content, [], brisk)
    assert available_fixes(finding, content, [], brisk) == (Fix.FEWER_TAGS,), "Brisk has no first comment"


def test_a_video_is_not_cropped_and_nothing_is_offered_that_cannot_be_done():
    wide = replace(VIDEO, width=640, height=360)
    content, sheet = Content("Round", (9,)), shipped_sheets()["vuelta"]
    (finding,) = check_content(content, [wide], sheet)
    assert finding.rule == "shape" and available_fixes(finding, content, [wide], sheet) == ()


def test_a_mend_is_laid_over_what_the_version_has_already():
    own = Overrides(text="Mine", fields={"title": "T"}, shown={1: MediaPresentation(words="Frost")})
    laid = merge_overrides(
        own, Overrides(shown={1: MediaPresentation(crop=Box(0, 0, 0.5, 1)), 2: MediaPresentation(fit=True)})
    )
    assert laid.text == "Mine" and laid.fields == {"title": "T"}
    assert laid.shown == {1: MediaPresentation(words="Frost", crop=Box(0, 0, 0.5, 1)), 2: MediaPresentation(fit=True)}


words = st.none() | st.text(max_size=5)
owns = st.builds(
    Overrides,
    text=words,
    media=st.none() | st.lists(st.integers(1, 3), unique=True).map(tuple),
    link=words,
    first_comment=words,
    fields=st.dictionaries(st.sampled_from("ab"), st.text(max_size=3)),
    form=st.none() | st.just(STORY),
    card=st.none() | st.just(Card("C")),
    shown=st.dictionaries(
        st.integers(1, 2), st.builds(MediaPresentation, turn=st.none() | st.integers(0, 3), words=words)
    ),
    link_tags=st.none() | st.integers(0, 3),
)
MASTER = Content(
    "M", (1, 2), "https://m.example", "first", {"a": "m"}, shown={1: MediaPresentation(turn=2)}, card=Card("Master's")
)


@given(owns)
def test_inherit_own_and_put_back_go_round(own):
    said = apply_overrides(MASTER, own)
    for part in ("text", "media", "link", "first_comment", "form", "link_tags"):
        mine = getattr(own, part)
        assert getattr(said, part) == (getattr(MASTER, part) if mine is None else mine)
    # Every part put back: the master again.
    assert apply_overrides(MASTER, Overrides()) == MASTER
    assert apply_overrides(said, own) == said, "twice is once"


def test_a_link_of_its_own_does_not_keep_the_masters_card():
    assert apply_overrides(MASTER, Overrides(link="https://other.example")).card is None
    assert apply_overrides(MASTER, Overrides(link="https://other.example", card=Card("Own"))).card == Card("Own")
    assert apply_overrides(MASTER, Overrides(text="x")).card == Card("Master's")


def test_proofs_are_laid_out_as_each_network_does_it():
    many, sheets = pictures(3), shipped_sheets()
    content = Content(
        "Moss",
        (1, 2, 3),
        "https://example.org",
        fields={"title": "Moss, close", "board": "Green", "listing_kind": "update", "button": "buy"},
    )
    laid = {n: build_proof(content, many, s) for n, s in sheets.items()}
    assert laid["vitrine"].one_by_one and len(laid["vitrine"].rows) == 1 and len(laid["vitrine"].rows[0]) == 3
    assert [len(r) for r in laid["brisk"].rows] == [2, 1] and not laid["brisk"].one_by_one
    assert laid["tackboard"].title == "Moss, close" and len(laid["tackboard"].rows) == 1
    assert laid["tackboard"].facts == (("Board", "Green"),)
    listing = laid["waypost"]
    assert listing.button == "buy" and (listing.rows[0][0].width, listing.rows[0][0].height) == (13333, 10000), (
        "cut to 4:3"
    )
    for layout in laid.values():
        for row in layout.rows:
            assert sum(p.share for p in row) == pytest.approx(1) or layout.one_by_one


def test_a_storys_proof_has_its_frames_in_order_with_their_words_and_no_text():
    shown = {1: MediaPresentation(words="Frost", words_at="top", focus=(0.2, 0.5))}
    seen = build_proof(
        Content("ignored", (9, 1), form=STORY, shown=shown), [VIDEO, PICTURE], shipped_sheets()["vitrine"]
    )
    assert seen.layout == "story" and seen.visible_text == "" and [p.asset for p in seen.rows[0]] == [9, 1]
    assert seen.rows[0][1].words == "Frost" and seen.rows[0][1].focus == (0.2, 0.5)


def test_a_carousel_takes_the_shape_of_its_first_picture_and_a_cut_one_keeps_its_focus_inside():
    shown = {1: MediaPresentation(crop=Box(0.5, 0, 0.5, 1), focus=(0.75, 0.5))}
    seen = build_proof(
        Content("", (1, 2), shown=shown),
        [PICTURE, replace(PICTURE, asset=2, width=900, height=1600)],
        shipped_sheets()["vitrine"],
    )
    first, second = seen.rows[0]
    assert (first.width, first.height) == (second.width, second.height) == (800, 900)
    assert first.focus == (0.5, 0.5), "as fractions of what is shown"
