"""What ships with the web application, checked without a browser: emoji data and colours."""

import json
import re

import pytest
from tools.setup import ROOT

from menudo_core.networks.load import shipped_sheets
from menudo_core.text.clusters import Unit, clusters, measure

EMOJI = ROOT / "web" / "node_modules" / "emojibase-data" / "en" / "compact.json"
THEME = (ROOT / "web" / "src" / "app" / "theme.ts").read_text("utf-8")
COLOURS = {name: {"light": a, "dark": b} for name, a, b in re.findall(r'(\w+): pair\("(#\w{6})", "(#\w{6})"\)', THEME)}


def contrast(one: str, other: str) -> float:
    """The contrast ratio of WCAG 2.2, 1.4.3."""

    def luminance(colour: str) -> float:
        parts = [int(colour[n : n + 2], 16) / 255 for n in (1, 3, 5)]
        r, g, b = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
        return 0.2126 * r + 0.7152 * g + 0.0722 * b

    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def test_the_formula_gives_the_standards_own_extremes():
    assert contrast("#000000", "#ffffff") == pytest.approx(21) and contrast("#777777", "#777777") == 1
    # WebAIM's well-known grey at the border of 4.5 on white; from memory.
    assert contrast("#767676", "#ffffff") == pytest.approx(4.54, abs=0.01)


@pytest.mark.parametrize("scheme", ["light", "dark"])
@pytest.mark.parametrize("ground", ["paper", "card", "wash"])
@pytest.mark.parametrize("text", ["ink", "faded", "pimenton", "maizeInk", "epazote", "anil"])
def test_every_text_colour_can_be_read_on_every_ground(scheme, ground, text):
    assert contrast(COLOURS[text][scheme], COLOURS[ground][scheme]) >= 4.5


@pytest.mark.parametrize("scheme", ["light", "dark"])
@pytest.mark.parametrize("shape", ["pimenton", "maize", "epazote", "anil", "faded"])
def test_every_shape_stands_out_from_every_ground(scheme, shape):
    assert all(contrast(COLOURS[shape][scheme], COLOURS[ground][scheme]) >= 3 for ground in ("paper", "card", "wash"))


def test_what_stands_on_a_filled_button_can_be_read():
    assert all(contrast(COLOURS["paper"][s], COLOURS["pimenton"][s]) >= 4.5 for s in ("light", "dark"))


@pytest.mark.parametrize("network", sorted(shipped_sheets()))
@pytest.mark.parametrize("scheme", ["light", "dark"])
def test_every_networks_look_can_be_read_in_its_proof(network, scheme):
    paint = getattr(shipped_sheets()[network].look, scheme)
    assert contrast(paint.ink, paint.card) >= 7 and contrast(paint.accent, paint.card) >= 4.5
    assert contrast(paint.ink, paint.ground) >= 7


def test_every_emoji_that_is_offered_counts_as_one():
    """UTS #51's sequences, with skin tones, flags, keycaps and families, as the emojibase data set lists them."""
    offered = json.loads(EMOJI.read_text("utf-8"))
    every = [e["unicode"] for e in offered] + [skin["unicode"] for e in offered for skin in e.get("skins", [])]
    assert len(every) > 3000
    assert [e for e in every if measure(e, Unit.CLUSTERS) != 1] == []
    assert all(list(clusters(f"a{e}b")) == ["a", e, "b"] for e in every[::37])
