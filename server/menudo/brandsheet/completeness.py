"""How much of a brand sheet says something."""

from menudo.brandsheet.schemas import SheetIO

_PARTS = ("site", "about", "audience", "colours", "logo", "topics", "hashtags", "use", "avoid", "language", "country")
# With the contact and the voice.
PARTS = len(_PARTS) + 2


def filled_parts(sheet: SheetIO) -> int:
    """Of its PARTS."""
    count = sum(bool(getattr(sheet, part)) for part in _PARTS)
    return count + any(sheet.contact.model_dump().values()) + bool(sheet.voice.words)
