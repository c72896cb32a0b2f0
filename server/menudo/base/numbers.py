"""Numbers in text that others wrote: headers, answers, files."""


def parse_whole_number(text: object, most: int) -> int | None:
    """The whole number that a text says in plain digits (RFC 9110's DIGIT), at most `most`; None where it is none.

    str.isdigit() holds of "²" and other digits that int() doesn't read, and int() reads numbers without end.
    """
    said = str(text).strip()
    if not (said.isascii() and said.isdigit()):
        return None
    return min(int(said), most) if len(said) <= 18 else most
