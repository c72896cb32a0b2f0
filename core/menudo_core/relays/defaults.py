"""What a network is good for, by its rule sheet: where starting points lead from and to."""

from menudo_core.media.facts import MediaKind
from menudo_core.networks.sheet import RuleSheet

# A text of so many characters at most is a short one.
_SHORT_TEXT_LIMIT = 500
_TITLE, _BOARD = "{title 90}", "Notes"


def takes_pictures(sheet: RuleSheet) -> bool:
    return MediaKind.PICTURE in sheet.media.kinds


def is_board(sheet: RuleSheet) -> bool:
    """Pictures are pinned to a board there."""
    return any(rule.name == "board" for rule in sheet.fields)


def lives_on_pictures(sheet: RuleSheet) -> bool:
    """No post without a picture or a video, and pictures will do; boards aside."""
    return takes_pictures(sheet) and "media" in sheet.required and not is_board(sheet)


def is_short(sheet: RuleSheet) -> bool:
    """Short texts, with or without a picture."""
    return sheet.text.limit is not None and sheet.text.limit <= _SHORT_TEXT_LIMIT and "media" not in sheet.required


def text_suffices(sheet: RuleSheet) -> bool:
    """Words alone, or with a link, can be posted."""
    return "media" not in sheet.required and not is_board(sheet)


def default_fields(sheet: RuleSheet) -> dict[str, str]:
    """Templates for the fields of its own that it can't do without, as far as an item can fill them."""
    known = {"title": _TITLE, "board": _BOARD}
    return {rule.name: known[rule.name] for rule in sheet.fields if rule.required and rule.name in known}


def default_link(sheet: RuleSheet) -> str:
    """Where an item without a link leads, where the network can't do without one: to where it appeared."""
    return "{address}" if "link" in sheet.required else ""
