"""Media and networks just at a limit, one below and one above it. All numbers are invented, or the rule's own."""

from dataclasses import replace

import pytest

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import Box, MediaPresentation, Person
from menudo_core.networks.check import check_content
from menudo_core.networks.content import POST, STORY, Card, Content
from menudo_core.networks.contradictions import contradictions
from menudo_core.networks.findings import Finding, Level, blocks
from menudo_core.networks.fixes import Fix, apply_fix, available_fixes
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.proof import build_proof, has_grid

SHEETS = shipped_sheets()
PICTURE = MediaFacts(1, MediaKind.PICTURE, "jpeg", 1600, 900, 1_000_000, alt="Moss")
VIDEO = MediaFacts(9, MediaKind.VIDEO, "mp4", 360, 640, 1_000_000, 9.0, "Round", "h264")
FRAME = MediaFacts(1, MediaKind.PICTURE, "jpeg", 900, 1600, 1_000_000, alt="Moss")
FILM = MediaFacts(2, MediaKind.VIDEO, "mp4", 900, 1600, 1_000_000, 9.0, "Round", "h264")


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


def test_only_pictures_beyond_a_limit_are_made_to_fit():
    sheet = SHEETS["brisk"]
    rule = replace(
        sheet.media.kinds[MediaKind.PICTURE], max_pixels=1_440_000, max_bytes=1_000_000, max_width=1600, max_height=900
    )
    tight = replace(sheet, media=replace(sheet.media, kinds={MediaKind.PICTURE: rule}))

    def fitted(**change: object) -> bool:
        facts = replace(PICTURE, **change)
        [*findings] = check_content(Content("Moss", (1,)), [replace(facts, width=9000)], tight)
        finding = next(f for f in findings if f.rule in ("too_large", "bytes"))
        return bool(apply_fix(Fix.FIT, finding, Content("Moss", (1,)), [facts], tight).shown)

    assert not fitted() and fitted(size=1_000_001) and fitted(format="tiff")
    assert fitted(width=1601, height=100) and fitted(width=100, height=901)
    assert (
        blocks([]) is False and blocks(check_content(Content("Moss", (1,)), [replace(PICTURE, alt="")], sheet)) is False
    )
    assert blocks(check_content(Content(""), [], sheet))


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


def test_a_piece_is_shown_whole_and_upright_around_its_middle_where_nothing_else_is_said():
    def piece(network: str = "brisk", facts: MediaFacts = PICTURE, **how: object):
        shown = {facts.asset: MediaPresentation(**how)} if how else {}
        return build_proof(Content("Moss", (facts.asset,), shown=shown), [facts], SHEETS[network]).rows[0][0]

    plain = piece()
    assert (plain.turn, plain.crop, plain.focus, plain.cover, plain.people) == (0, Box(), (0.5, 0.5), None, ())
    right = Box(0.5, 0, 0.5, 1)
    assert [piece(crop=right, focus=(x, 0.25)).focus for x in (0.25, 0.75, 1.0)] == [(0, 0.25), (0.5, 0.25), (1, 0.25)]
    left = Box(0, 0, 0.5, 1)
    assert piece(crop=left, focus=(0.75, 1.0)).focus == (1, 1), "what is cut away isn't in the middle of anything"
    assert piece(crop=right).crop == right and piece(crop=right).focus == (0, 0.5)
    assert piece(turn=5).turn == 1
    film = piece(facts=VIDEO, turn=1, crop=right, cover=7, cover_at=2.5)
    assert (film.turn, film.crop, film.cover, film.cover_at, film.seconds) == (0, Box(), 7, 2.5, 9.0)
    maud = (Person("maud", 0.5, 0.5),)
    tagging = {name: piece(name, people=maud).people for name in ("brisk", "vitrine")}
    assert tagging == {"brisk": (), "vitrine": maud}, "only where people can be tagged"


def test_what_a_sheet_says_against_itself_just_at_its_limits():
    def told(**raw: dict) -> list[tuple]:
        return [path for path, _ in contradictions(raw)]

    def pixels(**rule: int) -> bool:
        return bool(told(media={"kinds": {"picture": rule}}))

    assert [pixels(min_width=10, min_height=10, max_pixels=n) for n in (99, 100)] == [True, False]
    assert [pixels(min_width=10, max_pixels=n) for n in (9, 10)] == [True, False]
    assert [pixels(min_height=10, max_pixels=n) for n in (9, 10)] == [True, False]
    assert [pixels(min_width=n, max_width=9) for n in (9, 10)] == [False, True]
    kinds = {"media": {"kinds": {"picture": {}}}}
    assert told(asks={"forbidden": ["text", "link"]}) == [("asks", "forbidden")]
    assert told(asks={"forbidden": ["text"]}) == [] == told(asks={"forbidden": ["text", "link"]}, **kinds)
    assert told(asks={"required": ["media"]}) == [("asks", "required")] and told(asks={"required": ["text"]}) == []
    assert told(asks={"one_of": [["media"]]}) == [("asks", "one_of", 0)] and told(asks={"one_of": [["text"]]}) == []
    assert told(asks={"one_of": [["media"]], "required": ["media"]}, **kinds) == []
    assert told(hashtags={"good": 4, "most": 4}) == [] and told(hashtags={"good": 5, "most": 4}) == [
        ("hashtags", "good")
    ]


def test_findings_name_the_medium_they_are_about_by_its_place():
    def words(media: list[MediaFacts], network: str = "brisk", **more: object) -> list[str]:
        content = Content("Moss", tuple(m.asset for m in media), **more)
        return [f.message for f in check_content(content, media, SHEETS[network]) if f.level == "stops"]

    [told] = words([PICTURE, replace(PICTURE, asset=2, format="tiff")])
    assert told.startswith("Picture 2 is TIFF")
    sheet = SHEETS["brisk"]
    kinds = {
        **sheet.media.kinds,
        MediaKind.PICTURE: replace(sheet.media.kinds[MediaKind.PICTURE], max_pixels=1_440_000),
    }
    few = replace(sheet, media=replace(sheet.media, kinds=kinds))
    assert [
        [f.limit for f in check_content(Content("Moss", (1,)), [replace(PICTURE, width=w)], few) if f.level == "stops"]
        for w in (1600, 1601)
    ] == [[], ["1.44 megapixels"]]
    [frame] = story("vitrine", [FRAME, replace(FRAME, asset=2, kind=MediaKind.ANIMATION, format="gif")]).values()
    assert "Take frame 2 out" in frame
    [frame] = story("vitrine", [FRAME, replace(FRAME, asset=2, format="tiff")]).values()
    assert frame.startswith("Frame 2 is TIFF;")


def test_a_link_that_does_not_fit_is_named_by_its_first_letters():
    def told(length: int) -> str:
        link = f"https://a.example/{'x' * (length - 18)}"
        sheet = SHEETS["brisk"]
        tight = replace(sheet, text=replace(sheet.text, limit=50, link_weight=None))
        [finding] = [f for f in check_content(Content(link), [], tight) if f.rule == "too_long"]
        return finding.message.split("The link ")[1].split(" doesn't")[0]

    two = Content(f"https://a.example/{'x' * 60} https://b.example/{'y' * 60}")
    tight = replace(SHEETS["brisk"], text=replace(SHEETS["brisk"].text, limit=50, link_weight=None))
    (finding,) = [f for f in check_content(two, [], tight) if f.rule == "too_long"]
    assert "2 of its links don't fit even without any words: leave them out" in finding.message
    assert (told(60), told(61)) == (f"https://a.example/{'x' * 42}", f"https://a.example/{'x' * 41}…")


@pytest.mark.parametrize(
    ("ages", "good"),
    [("13+", True), ("12+", False), ("13-99", True), ("18-100", False), ("18–18", True), ("19-18", False)],
)
def test_ages_go_from_thirteen_to_ninety_nine(ages, good):
    content = Content("Moss", fields={"ages": ages})
    assert (not [f for f in check_content(content, [], SHEETS["plaza"]) if f.rule == "ages"]) is good


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


def test_what_is_too_much_is_told_with_what_to_take_out():
    plaza = SHEETS["plaza"]

    def told(rule: str, content: Content, media: list[MediaFacts], sheet) -> str:
        return next(f.message for f in check_content(content, media, sheet) if f.rule == rule)

    four = tuple(Person(name, 0.5, 0.5) for name in "abcd")
    tagged = Content("Moss", (1,), shown={1: MediaPresentation(people=four)})
    shy = replace(plaza, media=replace(plaza.media, people=3))
    words = f"{plaza.name} takes 3 people tagged in a picture; this has 4. Take out 1."
    assert told("people", tagged, [PICTURE], shy) == words
    for most, one in ((1, "picture"), (2, "pictures")):
        kinds = {MediaKind.PICTURE: replace(plaza.media.kinds[MediaKind.PICTURE], max_count=most)}
        few = replace(plaza, media=replace(plaza.media, kinds=kinds))
        words = f"{plaza.name} takes {most} {one} in a post; this has 4. Take out {4 - most}."
        assert told("media_count", Content("Moss", (1, 2, 3, 4)), [PICTURE] * 4, few) == words
    mute = replace(plaza, hashtags=replace(plaza.hashtags, max_count=3, recommended=0))
    assert told("hashtags", Content("#a #b"), [], mute) == f"Hashtags do nothing on {plaza.name}; this has 2."
    words = f"{plaza.name} takes 3 hashtags; this has 5. Take out 2."
    assert told("hashtags", Content("#a #b #c #d", first_comment="#e"), [], mute) == words
    for sides, limit in (({"max_width": 800, "max_height": None}, "800 × any"), ({"max_height": 800}, "any × 800")):
        rule = replace(plaza.media.kinds[MediaKind.PICTURE], **{"max_width": None, **sides})
        small = replace(plaza, media=replace(plaza.media, kinds={MediaKind.PICTURE: rule}))
        assert f"takes at most {limit}." in told("too_large", Content("Moss", (1,)), [PICTURE], small)


def test_a_shape_that_two_limits_leave_no_size_for_is_told_beyond_half_a_per_cent():
    def told(**rule: float) -> list[str]:
        return [str(path[-1]) for path, _ in contradictions({"media": {"kinds": {"picture": rule}}})]

    wide, tall = {"min_width": 1000, "max_height": 100}, {"max_width": 100, "min_height": 1000}
    assert [told(**wide, max_ratio=limit) for limit in (9.94, 9.96)] == [["max_ratio"], []]
    assert [told(**tall, min_ratio=limit) for limit in (0.1006, 0.1004)] == [["min_ratio"], []]


def test_a_frame_just_at_either_end_of_a_storys_shapes_fits():
    sheet = SHEETS["vitrine"]
    for low, high, fits in ((9 / 16, 0.7, True), (0.4, 9 / 16, True), (0.57, 0.7, False), (0.4, 0.56, False)):
        exact = replace(sheet, story=replace(sheet.story, min_ratio=low, max_ratio=high))
        found = check_content(Content("", (1,), form=STORY), [FRAME], exact)
        assert ("shape" not in {f.rule for f in found}) is fits


def test_a_mend_is_offered_only_where_it_can_be_done():
    brisk = SHEETS["brisk"]

    def offered(rule: str, content: Content, media: list[MediaFacts], sheet=brisk) -> tuple[Fix, ...]:
        finding = next(f for f in check_content(content, media, sheet) if f.rule == rule)
        return available_fixes(finding, content, media, sheet)

    assert offered("too_long", Content("Moss " * 90), []) == (Fix.SHORTEN,)
    assert offered("too_long", Content("Moss", (9,)), [replace(VIDEO, seconds=900.0)]) == ()
    whole = replace(brisk, text=replace(brisk.text, link_weight=None))
    assert offered("too_long", Content(f"https://example.org/{'a' * 400}"), [], whole) == ()
    # Nothing draws a picture in a format that isn't drawn.
    rule = replace(brisk.media.kinds[MediaKind.PICTURE], formats=("gif",), max_width=800)
    drawn = replace(brisk, media=replace(brisk.media, kinds={MediaKind.PICTURE: rule}))
    panorama = replace(PICTURE, format="gif", width=6000, height=100)
    assert offered("shape", Content("Moss", (1,)), [panorama], drawn) == (Fix.CROP,)
    assert offered("too_large", Content("Moss", (1,)), [panorama], drawn) == ()
    assert offered("too_large", Content("Moss", (1,)), [replace(PICTURE, width=9000, height=6000)]) == (Fix.FIT,)


def test_a_post_is_cropped_as_little_as_can_be_and_a_story_to_the_middle_of_what_is_taken():
    def cropped(form: str, facts: MediaFacts, **shapes: float | None) -> float | None:
        sheet = SHEETS["vitrine"]
        rule = replace(sheet.media.kinds[MediaKind.PICTURE], **{"min_ratio": None, "max_ratio": None, **shapes})
        story = replace(sheet.story, **{"min_ratio": None, "max_ratio": None, **shapes})
        sheet = replace(sheet, story=story, media=replace(sheet.media, kinds={MediaKind.PICTURE: rule}))
        content = Content("Moss", (1,), form=form)
        finding = Finding(Level.STOPS, "shape", "media/0", "")
        shown = apply_fix(Fix.CROP, finding, content, [facts], sheet).shown or {}
        if 1 not in shown:
            return None
        box = shown[1].crop
        return facts.width * box.w / (facts.height * box.h)

    wide, narrow = replace(PICTURE, width=3000, height=1000), replace(PICTURE, width=400, height=1000)
    both = {"min_ratio": 0.5, "max_ratio": 0.7}
    assert cropped(POST, wide, **both) == pytest.approx(0.7) and cropped(POST, narrow, **both) == pytest.approx(0.5)
    assert cropped(STORY, wide, **both) == cropped(STORY, narrow, **both) == pytest.approx(0.6)
    assert cropped(STORY, wide, max_ratio=0.7) == pytest.approx(0.7)
    assert cropped(STORY, narrow, min_ratio=0.5) == pytest.approx(0.5)
    # A story gives no grace, a post half a per cent.
    hardly = replace(PICTURE, width=702, height=1000)
    assert cropped(POST, hardly, **both) is None and cropped(STORY, hardly, **both) == pytest.approx(0.6)


def test_a_proof_of_one_picture_turns_no_pages_and_a_focus_is_told_within_the_crop():
    sheet = replace(SHEETS["plaza"], proof=replace(SHEETS["plaza"].proof, pictures="carousel"))
    shown = {1: MediaPresentation(crop=Box(0.5, 0.2, 0.5, 0.5), focus=(0.625, 0.3))}
    content = Content("Moss", (1, 2), shown=shown)
    two = [PICTURE, replace(PICTURE, asset=2)]
    assert build_proof(content, two, sheet).one_by_one
    one = build_proof(replace(content, media=(1,)), two[:1], sheet)
    assert not one.one_by_one and one.rows[0][0].focus == pytest.approx((0.25, 0.2))
    people = (Person("Maud", 0.5, 0.5),)
    frames = Content("", (1,), form=STORY, shown={1: MediaPresentation(people=people)})
    assert build_proof(frames, [FRAME], SHEETS["vitrine"]).rows[0][0].people == people
    assert [has_grid(SHEETS[name]) for name in ("vitrine", "brisk")] == [True, False]
    assert has_grid(replace(SHEETS["brisk"], proof=replace(SHEETS["brisk"].proof, layout="board")))
