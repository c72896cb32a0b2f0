"""Each network's own look: invented, and told apart at a glance. Its colours stand in its rule sheet, for proofs as well."""

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Look:
    """The band over each page as CSS, a type family, the layout of a profile's page, a line under the name, what one is asked to choose."""

    band: str
    band_ink: str
    family: str
    layout: str
    motto: str
    asks: str = "profiles"
    dark: bool = False


_SANS = "system-ui,sans-serif"
_OWN = {"ground": "#eef6f5", "card": "#ffffff", "ink": "#10302f", "line": "#c7dcda", "accent": "#0b5d66"}
LOOKS = {
    "": Look("#0b5d66", "#fff", "Georgia,serif", "feed", "made-up networks for trying Menudo"),
    "brisk": Look("#0b5d66", "#fff", "Georgia,serif", "feed", "in one glance"),
    "plaza": Look("#6b3f1d", "#fff8ec", f"'Trebuchet MS',{_SANS}", "feed", "where the town meets", "pages and groups"),
    "vitrine": Look("#1e1e1e", "#f7f7f4", f"'Avenir Next',{_SANS}", "grid", "behind the glass"),
    "guildhall": Look(
        "#3d3a2a",
        "#f3e9c9",
        "'Palatino Linotype',Palatino,serif",
        "feed",
        "people and companies at work",
        "people and companies",
    ),
    "tackboard": Look("#7b4b2a", "#fff7ea", f"Verdana,{_SANS}", "board", "pin it where you find it again", "accounts"),
    "cinta": Look("#22262f", "#e9e4d4", _SANS, "reel", "the long picture", "channels", True),
    "vuelta": Look("#5b1f45", "#ffe9f4", _SANS, "reel", "once round", "accounts"),
    "waypost": Look("#3e5230", "#f6f8ee", f"Tahoma,{_SANS}", "listing", "find your way", "locations"),
    "foolscap": Look("#7a3b2e", "#fffdf6", "Georgia,serif", "feed", "a page a day", "blogs"),
    "open-site": Look("#2b2b2b", "#ffffff", "Georgia,serif", "feed", "sites that belong to their owners", "sites"),
}


def page_colours(network: str, sheet: dict[str, Any] | None) -> dict[str, str]:
    """The colours of a network's pages, from its rule sheet."""
    if sheet is None or "look" not in sheet:
        return _OWN
    found: dict[str, str] = sheet["look"]["dark" if LOOKS[network].dark else "light"]
    return found
