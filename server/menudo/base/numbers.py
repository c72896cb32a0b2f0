"""Numbers in text that others wrote: headers, answers, files."""


def parse_whole_number(text: object, maximum: int) -> int | None:
    """The whole number that a text says in plain digits (RFC 9110's DIGIT), at most `maximum`; None where it is none.

    str.isdigit() holds of "²" and other digits that int() doesn't read, and int() reads numbers without end.
    """
    digits = str(text).strip()
    if not (digits.isascii() and digits.isdigit()):
        return None
    return min(int(digits), maximum) if len(digits) <= 18 else maximum
