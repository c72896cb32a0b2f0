"""Words compared whatever their case and accents."""

import unicodedata

import regex


def fold_case_and_accents(text: str) -> str:
    """The text without case and accents: compatibility caseless matching (Unicode, 3.13, D146), then without its combining
    marks; scripts whose vowels are marks keep them, since only Latin, Greek and Cyrillic letters lose theirs."""
    folded = unicodedata.normalize(
        "NFKD", unicodedata.normalize("NFKD", unicodedata.normalize("NFD", text).casefold()).casefold()
    )
    return unicodedata.normalize("NFC", _LOSE.sub(r"\1", folded))


_LOSE = regex.compile(r"([\p{Latin}\p{Greek}\p{Cyrillic}])\p{Mn}+")
