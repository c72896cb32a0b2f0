"""A plan as CSV, safe to open in a spreadsheet."""

import csv
import io
import re
from collections.abc import Iterable, Iterator, Sequence
from itertools import islice

_ROWS_A_PIECE = 200
# What begins a formula at a cell's start; and within it, where a spreadsheet that parts at other marks would begin a cell. Of these a
# line of a list (“- moss”) is none.
_AT_START = re.compile(r"^( *)('*)(?=[=+\-@\t\r])")
_WITHIN = re.compile(r"([;\t\r\n] *)('*)(?=[=+@]|-[^ ])")


def escape_formula(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula, whole or in part: what would begin one gets an apostrophe before it (OWASP, CSV
    injection); so does what has one there already, that it isn't taken for ours."""
    return _AT_START.sub(r"\1'\2", _WITHIN.sub(r"\1'\2", cell))


def unescape_formula(cell: str) -> str:
    """A cell as it was before `escape_formula`."""
    return _AT_START.sub(_without_one, _WITHIN.sub(_without_one, cell))


def _without_one(found: re.Match[str]) -> str:
    return found[1] + found[2][1:]


def write_csv(header: Sequence[str], rows: Iterable[Sequence[str]]) -> Iterator[bytes]:
    """The table in RFC 4180's form, UTF-8 with a mark at its start that spreadsheets know it by; in pieces, the header by itself."""
    text = io.StringIO(newline="")
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow([escape_formula(cell) for cell in header])
    yield text.getvalue().encode("utf-8-sig")
    left = iter(rows)
    while piece := list(islice(left, _ROWS_A_PIECE)):
        text = io.StringIO(newline="")
        csv.writer(text, lineterminator="\r\n").writerows([escape_formula(cell) for cell in row] for row in piece)
        yield text.getvalue().encode()
