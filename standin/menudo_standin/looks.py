"""Each network's own look: invented, and told apart at a glance."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Look:
    """Colours as CSS, a type family, the layout of a profile's page, a line under the name, and what one is asked to choose."""

    ground: str
    band: str
    band_ink: str
    ink: str
    line: str
    accent: str
    family: str
    layout: str
    motto: str
    asks: str = "profiles"


_SANS = "system-ui,sans-serif"
LOOKS = {
    "": Look("#eef6f5", "#0b5d66", "#fff", "#10302f", "#c7dcda", "#0b5d66", "Georgia,serif", "feed", "made-up networks for trying Menudo"),
    "brisk": Look("#eef6f5", "#0b5d66", "#fff", "#10302f", "#c7dcda", "#0b5d66", "Georgia,serif", "feed", "in one glance"),
    "plaza": Look("#f6f1e7", "#6b3f1d", "#fff8ec", "#33251a", "#ddcfb8", "#7a4620", f"'Trebuchet MS',{_SANS}", "feed", "where the town meets", "pages and groups"),
    "vitrine": Look("#f7f7f4", "#1e1e1e", "#f7f7f4", "#1e1e1e", "#d9d9d2", "#4a3f6b", f"'Avenir Next',{_SANS}", "grid", "behind the glass"),
    "guildhall": Look("#f1efe9", "#3d3a2a", "#f3e9c9", "#2c2a20", "#cfc9b4", "#5a5230", "'Palatino Linotype',Palatino,serif", "feed", "people and companies at work", "people and companies"),
    "tackboard": Look("#efe2cf", "#7b4b2a", "#fff7ea", "#3a2416", "#d3bd9f", "#7b3f17", f"Verdana,{_SANS}", "board", "pin it where you find it again", "accounts"),
    "cinta": Look("#14161c", "#22262f", "#e9e4d4", "#e6e3da", "#343a47", "#d9b24c", _SANS, "reel", "the long picture", "channels"),
    "vuelta": Look("#fbf3f6", "#5b1f45", "#ffe9f4", "#3a1530", "#e5c9d8", "#7d2a5e", _SANS, "reel", "once round", "accounts"),
    "waypost": Look("#eef1e6", "#3e5230", "#f6f8ee", "#27331f", "#cbd4bb", "#3e5230", f"Tahoma,{_SANS}", "listing", "find your way", "locations"),
    "open-site": Look("#ffffff", "#2b2b2b", "#ffffff", "#222222", "#dddddd", "#335577", "Georgia,serif", "feed", "sites that belong to their owners", "sites"),
}  # fmt: skip
