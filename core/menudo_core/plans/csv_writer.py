"""A plan as CSV, safe to open in a spreadsheet."""

import csv
import io
from collections.abc import Iterable, Sequence

_FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r")


def escape_formula(cell: str) -> str:
    """A cell that no spreadsheet takes for a formula: what would begin one gets an apostrophe before it (OWASP, CSV
    injection); so does what has one there already, that it isn't taken for ours."""
    return f"'{cell}" if cell.lstrip("'").startswith(_FORMULA_STARTS) else cell


def unescape_formula(cell: str) -> str:
    """A cell as it was before `escape_formula`."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(_FORMULA_STARTS) else cell


def write_csv(header: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """The table in RFC 4180's form, UTF-8 with a mark at its start that spreadsheets know it by."""
    text = io.StringIO(newline="")
    writer = csv.writer(text, lineterminator="\r\n")
    writer.writerow([escape_formula(cell) for cell in header])
    for row in rows:
        writer.writerow([escape_formula(cell) for cell in row])
    return text.getvalue().encode("utf-8-sig")
