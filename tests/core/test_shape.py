"""What an item becomes at a target. Sheets are those that ship; items are invented."""

import pytest

from menudo_core.catalogue.events import EventKind
from menudo_core.feeds.messages import unknown_placeholders
from menudo_core.media.contrast import INK, PAPER, contrast_ratio, readable_pair
from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.networks.fixes import Fix
from menudo_core.networks.load import shipped_sheets
from menudo_core.networks.ratios import drawing_size
from menudo_core.relays.adaptation import Adaptation, TextUse, adapt_item
from menudo_core.relays.messages import SourceKind, placeholders_for, standard_message
from menudo_core.text.hashtags import hashtags

SHEETS = shipped_sheets()


def picture(asset: int, width: int = 1080, height: int = 1080, size: int = 200_000) -> MediaFacts:
    return MediaFacts(asset, MediaKind.PICTURE, "jpeg", width, height, size, alt="moss")


def become(network: str, template: str = "{text}", shape: Adaptation | None = None, media=(), tags=(), **said: str):
    return adapt_item(template, said, tags, media, shape or Adaptation(), SHEETS[network])


def test_a_long_text_is_cut_to_the_short_networks_limit_and_said_so():
    made = become("brisk", text="One sentence about moss. " * 30)
    assert len(made.content.text) <= 300 and made.fixes == (Fix.SHORTEN,) and made.blocking_findings == []
    untouched = become("brisk", shape=Adaptation(adapts=False), text="x " * 400)
    assert untouched.blocking_findings and untouched.fixes == ()


def test_pictures_go_along_natively_as_many_as_are_taken():
    six = [picture(n) for n in range(1, 7)]
    assert become("brisk", media=six, text="Six").content.media == (1, 2, 3, 4)
    assert become("brisk", shape=Adaptation(TextUse.FIRST), media=six, text="Six").content.media == (1,)
    assert become("brisk", shape=Adaptation(TextUse.NONE), media=six, text="Six").content.media == ()
    wide = become("vitrine", media=[picture(1, 3000, 900)], text="Wide")
    assert Fix.CROP in wide.fixes and wide.content.shown[1].crop and wide.blocking_findings == []


def test_hashtags_beyond_good_practice_go_and_may_stand_in_the_first_comment():
    # At most 2 on short-text networks: common practice, no published source.
    made = become("brisk", text="Moss #one #two #three #four")
    assert len(hashtags(made.content.text)) == 2 and Fix.FEWER_TAGS in made.fixes
    below = become("vitrine", shape=Adaptation(tags_below=True), media=[picture(1)], text="Moss #one #two")
    assert (below.content.text, below.content.first_comment) == ("Moss", "#one #two")


def test_a_boards_own_fields_are_filled_and_what_it_needs_and_lacks_stops_it():
    shape = Adaptation(fields={"title": "{title 12}", "board": "Winter"})
    made = become(
        "tackboard", "{text}", shape, [picture(1)], title="Forty kinds of moss", text="x", link="https://example.org/"
    )
    assert made.content.fields == {"title": "Forty kinds…", "board": "Winter"} and made.blocking_findings == []
    bare = Adaptation(fields=shape.fields, link_to="{address}")
    linked = become("tackboard", shape=bare, media=[picture(1)], text="x", title="t", address="https://example.org/p/1")
    assert linked.content.link == "https://example.org/p/1" and linked.blocking_findings == []
    assert {f.field for f in become("tackboard", media=[picture(1)], text="x").blocking_findings} >= {"link"}


def test_a_link_goes_with_it_only_where_the_network_has_links():
    assert become("brisk", text="x", link="https://example.org/").content.link == "https://example.org/"
    assert become("brisk", shape=Adaptation(link=False), text="x", link="https://example.org/").content.link == ""
    assert become("vuelta", text="x", link="https://example.org/").content.link == ""


@pytest.mark.parametrize("network", sorted(SHEETS))
def test_whatever_comes_adapting_never_goes_on_for_ever_and_never_adds_media(network):
    media = [picture(n, *size, big) for n, (size, big) in enumerate([((50, 50), 10), ((9000, 200), 90_000_000)], 1)]
    made = become(network, text="#a " * 60 + "x" * 6000, media=media, link="https://example.org/" + "a" * 500)
    assert set(made.content.media) <= {1, 2} and len(made.fixes) <= len(Fix)


def test_what_is_said_and_its_placeholders_go_by_the_kind_of_source():
    assert unknown_placeholders("{price} {title 9} {nosuch}", placeholders_for(SourceKind.FEED)) == [
        "{price}",
        "{nosuch}",
    ]
    assert unknown_placeholders("{price} {open_day}", placeholders_for(SourceKind.CATALOGUE)) == []
    every = [(kind, event) for kind in SourceKind for event in (EventKind if kind is SourceKind.CATALOGUE else [None])]
    assert all(
        standard_message(*one) and not unknown_placeholders(standard_message(*one), placeholders_for(one[0]))
        for one in every
    )


def test_contrast_is_that_of_wcag():
    # WCAG 2.2, definition of contrast ratio: 21 for black on white; #777777 on white is 4.48, just below 4.5 (well known).
    assert contrast_ratio("#000000", "#ffffff") == pytest.approx(21)
    # sRGB's straight part, near black.
    assert contrast_ratio("#0a0a0a", "#000000") == pytest.approx((10 / 255 / 12.92 + 0.05) / 0.05)
    assert contrast_ratio("#777777", "#ffffff") == pytest.approx(4.48, abs=0.005)
    assert readable_pair([]) == (PAPER, INK)
    assert readable_pair(["#2f6b4a", "#f4e9d8"]) == ("#2f6b4a", "#f4e9d8")
    ground, ink = readable_pair(["#888888"])
    assert ground == "#888888" and contrast_ratio(ground, ink) >= 4.5


def test_a_drawn_picture_has_a_shape_that_every_network_takes():
    for some in (["vitrine"], ["vitrine", "brisk"], list(SHEETS), []):
        width, height = drawing_size(SHEETS[name] for name in some)
        assert width == 1080 and 0.5 <= width / height <= 2
    made = become("vitrine", media=[picture(1, *drawing_size([SHEETS["vitrine"]]))], text="x")
    assert made.fixes == () and made.blocking_findings == []
