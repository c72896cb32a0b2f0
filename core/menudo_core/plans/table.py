"""A plan as a spreadsheet wrote it: any usual encoding and separator, read into a header and rows of cells."""

import csv
import io
from dataclasses import dataclass

MAX_ROWS = 2000
# A cell may be as long as a file may: what is too long is told at its cell. The csv module's own limit is 128 kB, for all.
csv.field_size_limit(10_000_000)
_BOMS = ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"))
_SEPARATORS = ";\t,|"


class InvalidTableError(ValueError):
    """A file that isn't a table of text, with what to do."""


@dataclass(frozen=True, slots=True)
class Table:
    """The header's names as written, and the rows, each with the line it began on (1 is the header's)."""

    header: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]
    encoding: str
    separator: str


def parse_table(raw: bytes) -> Table:
    """The table in a file. Raises InvalidTableError.

    RFC 4180, with the separators that spreadsheets write by country: comma, semicolon, tab. A line `sep=;` at the top
    is taken at its word.
    """
    text, encoding = _decode(raw)
    lines = text.split("\n", 1)
    first = lines[0].strip()
    separator = first[4:] if first.lower().startswith("sep=") and len(first) == 5 else ""
    skipped = 1 if separator else 0
    if skipped:
        text = lines[1] if len(lines) > 1 else ""
    separator = separator or _guess_separator(text)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=separator, strict=True)
    rows: list[tuple[int, tuple[str, ...]]] = []
    try:
        before = 0
        for cells in reader:
            if any(cell.strip() for cell in cells):
                rows.append((before + 1 + skipped, tuple(cells)))
            before = reader.line_num
            if len(rows) > MAX_ROWS + 1:
                raise InvalidTableError(f"That is more than {MAX_ROWS} rows. Split the file.")
    except csv.Error as error:
        raise InvalidTableError(
            f"Line {reader.line_num + skipped} can't be read: a quotation mark isn't closed, or stands in the middle."
        ) from error
    if not rows:
        raise InvalidTableError("The file is empty.")
    if len(rows) == 1:
        raise InvalidTableError("The file has a header and no rows.")
    return Table(tuple(name.strip() for name in rows[0][1]), tuple(rows[1:]), encoding, separator)


def _decode(raw: bytes) -> tuple[str, str]:
    for bom, encoding in _BOMS:
        if raw.startswith(bom):
            try:
                text = raw.decode(encoding)
            except UnicodeDecodeError as error:
                raise InvalidTableError("The file's letters are broken. Save it again as CSV, in UTF-8.") from error
            if "\0" in text:
                raise InvalidTableError("This isn't a text file. Save the spreadsheet as CSV and bring that.")
            return text, encoding
    if raw.startswith((b"PK\x03\x04", b"\xd0\xcf\x11\xe0")):
        raise InvalidTableError("This is a spreadsheet's own file. Save it as CSV and bring that.")
    if b"\0" in raw:
        raise InvalidTableError("This isn't a text file. Save the spreadsheet as CSV and bring that.")
    for encoding in ("utf-8", "cp1252"):
        try:
            return raw.decode(encoding), encoding
        except UnicodeDecodeError:
            continue
    return raw.decode("latin-1"), "latin-1"


def _guess_separator(text: str) -> str:
    """The separator that cuts the header into most cells; a comma when none does."""
    header = next((line for line in text.splitlines() if line.strip()), "")
    counts = {mark: len(next(csv.reader([header], delimiter=mark))) for mark in _SEPARATORS}
    best = max(_SEPARATORS, key=lambda mark: counts[mark])
    return best if counts[best] > 1 else ","
