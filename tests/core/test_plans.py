"""Plans as spreadsheets write them."""

import csv
import io
import re
from dataclasses import replace
from datetime import date, time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.plans.csv_writer import escape_formula, unescape_formula, write_csv
from menudo_core.plans.lists import join_names, split_names
from menudo_core.plans.rows import Row, parse_rows
from menudo_core.plans.table import InvalidTableError, parse_table

PLAIN = "date,time,profiles,text,text brisk,media,labels\r\n2026-12-01,15:00,@fernhollow;Shops,Hello,Hi,rose.jpg;leaf.jpg,Talks\r\n"
NETWORKS = {"brisk", "plaza"}


@pytest.mark.parametrize(
    ("raw", "separator"),
    [
        (PLAIN.encode(), ","),
        (PLAIN.encode("utf-8-sig"), ","),
        (PLAIN.replace(",", "\t").encode("utf-16"), "\t"),
        (PLAIN.replace(";", "|").replace(",", ";").encode("cp1252"), ";"),
        (b"sep=;\r\n" + PLAIN.replace(";", "|").replace(",", ";").encode(), ";"),
    ],
)
def test_any_encoding_and_separator_a_spreadsheet_writes(raw, separator):
    table = parse_table(raw)
    assert table.separator == separator
    (row,) = parse_rows(table, NETWORKS)
    assert (row.day, row.at, row.text, dict(row.texts)) == (date(2026, 12, 1), time(15), "Hello", {"brisk": "Hi"})
    assert row.profiles == ("@fernhollow", "Shops") and row.media == ("rose.jpg", "leaf.jpg") and not row.faults


def test_a_quotation_mark_is_told_at_the_line_people_see():
    for before, line in ((b"", 3), (b"sep=,\n", 4)):
        with pytest.raises(InvalidTableError, match=f"Line {line} can't be read"):
            parse_table(before + b'date,profiles\n2026-12-01,a\n2026-12-02,"a"b\n')


def test_letters_of_the_west_without_a_mark():
    assert parse_rows(parse_table("date;profiles;text\n1.12.2026;a;Mañana".encode("cp1252")), [])[0].text == "Mañana"


def test_texts_of_several_lines_keep_the_line_they_began_on():
    """RFC 4180, 2.6 and 2.7."""
    found = parse_rows(parse_table(b'date,profiles,text\n2026-12-01,a,"one\ntwo ""three"""\n\n2026-12-02,b,x\n'), [])
    assert [(r.line, r.text) for r in found] == [(2, 'one\ntwo "three"'), (5, "x")]


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        (b"", "empty"),
        (b"date,profiles\n", "no rows"),
        (b"sep=;", "empty"),
        (b"a,b,c\n1,2,3", "column “a” is no column"),
        (b"x" * 41 + b",profiles\n1,2", f"column “{'x' * 40}” is no column"),
        (b"PK\x03\x04....", "spreadsheet's own file"),
        (b"\x89PNG\0\0\0", "isn't a text file"),
        (b"when,who\n1,2", "no column that Menudo knows"),
        (b"date,text\n1,2", "no column"),
        (b"date,date,profiles\n1,2,3", "twice"),
        (b'date,profiles,text\n2026-12-01,a,"never closed\n', "quotation mark"),
        (b"date,profiles\n" + b"2026-12-01,a\n" * 2001, "more than 2000"),
    ],
)
def test_a_file_that_cant_be_taken_says_why(raw, words):
    with pytest.raises(InvalidTableError, match=words):
        parse_rows(parse_table(raw), NETWORKS)


@pytest.mark.parametrize(
    ("cells", "column"),
    [
        ("2026-02-30,15:00,a,,post", "date"),
        ("tomorrow,15:00,a,,post", "date"),
        ("03/04/2026,15:00,a,,post", "date"),
        ("2026-12-01,25:00,a,,post", "time"),
        ("2026-12-01,13 pm,a,,post", "time"),
        ("2026-12-01,0 am,a,,post", "time"),
        ("2026-12-01,24:00,a,,post", "time"),
        ("2026-12-01,12:60,a,,post", "time"),
        ("2026-12-01,15,a,,post", "time"),
        ("2026-12-01,15:00,,,post", "profiles"),
        ("2026-12-01,15:00,a,Mars/Olympus,post", "zone"),
        ("2026-12-01,15:00,a,,reel", "kind"),
        ("2026-12-01,15:00,a,,post,and,more", ""),
    ],
)
def test_what_a_cell_gets_wrong_is_told_at_the_cell(cells, column):
    (row,) = parse_rows(parse_table(f"date,time,profiles,zone,kind\n{cells}\n".encode()), NETWORKS)
    assert [fault.column for fault in row.faults] == [column]


def test_slashes_are_read_as_the_column_shows():
    first = parse_rows(parse_table(b"date,profiles\n03/04/2026,a\n25/04/2026,a\n"), [])
    second = parse_rows(parse_table(b"date,profiles\n03/04/2026,a\n04/25/2026,a\n"), [])
    assert (first[0].day, second[0].day) == (date(2026, 4, 3), date(2026, 3, 4))
    # The twelfth shows nothing, the thirteenth does; and where both are the same it needn't.
    told = [
        parse_rows(parse_table(f"date,profiles\n03/04/2026,a\n{one},a\n".encode()), [])[0]
        for one in ("12/04/2026", "13/04/2026", "04/13/2026")
    ]
    assert [one.day for one in told] == [None, date(2026, 4, 3), date(2026, 3, 4)]
    assert parse_rows(parse_table(b"date,profiles\n04/04/2026,a\n"), [])[0].day == date(2026, 4, 4)


@pytest.mark.parametrize(
    ("cell", "at"),
    [
        ("3 pm", time(15)),
        ("12:05 a.m.", time(0, 5)),
        ("12 pm", time(12)),
        ("1 am", time(1)),
        ("9.30", time(9, 30)),
        ("15:00:00", time(15)),
        ("23:59", time(23, 59)),
        ("0:00", time(0)),
    ],
)
def test_times_as_they_are_written(cell, at):
    assert parse_rows(parse_table(f"date,profiles,time\n2026-12-01,a,{cell}\n".encode()), [])[0].at == at


def test_a_slot_instead_of_a_time():
    assert parse_rows(parse_table(b"date,profiles,time\n2026-12-01,a,slot\n"), [])[0].at is None


@pytest.mark.parametrize("cell", ["=1+1", "+34 600", "-3", "@fernhollow", "\tx", '=HYPERLINK("a")', "  =1+1"])
def test_no_cell_is_taken_for_a_formula(cell):
    """OWASP, CSV injection."""
    assert not escape_formula(cell).lstrip(" ").startswith(("=", "+", "-", "@", "\t", "\r"))
    assert unescape_formula(escape_formula(cell)) == cell


@pytest.mark.parametrize("cell", ["moss;=1+1", "moss\n=1+1", "moss\t@SUM(A1)", "moss\r\n+1", "moss; -1", "a;'=1"])
def test_no_part_of_a_cell_is_either_where_a_spreadsheet_parts_at_other_marks(cell):
    parts = re.split(r"[;\t\r\n]", escape_formula(cell))
    assert not [part for part in parts if part.strip(" ").startswith(("=", "+", "-", "@"))]
    assert unescape_formula(escape_formula(cell)) == cell


def test_a_list_in_a_text_stays_as_it_is():
    assert escape_formula("Today:\n- moss\n- fern") == "Today:\n- moss\n- fern"


@given(
    st.lists(
        st.lists(
            st.text(st.characters(blacklist_categories=("Cs",), blacklist_characters="\0")), min_size=2, max_size=2
        )
    )
)
def test_what_goes_out_can_be_read_back_by_any_reader(table):
    """Against the csv module's own reader (RFC 4180)."""
    raw = b"".join(write_csv(["date", "profiles"], table)).decode("utf-8-sig")
    back = list(csv.reader(io.StringIO(raw, newline="")))[1:]
    assert [[unescape_formula(c) for c in row] for row in back] == [
        [unescape_formula(escape_formula(c)) for c in row] for row in table
    ]


nasty = st.text(
    st.one_of(
        st.sampled_from("'\"=+-@;|,\t\r\n #："), st.characters(exclude_categories=("Cs",), exclude_characters="\0")
    ),
    max_size=12,
)


@given(st.lists(nasty.filter(str.strip), max_size=5))
def test_names_in_a_cell_are_the_same_names_whatever_they_hold(names):
    wanted = tuple(dict.fromkeys(name if '"' in join_names([name]) else name.strip() for name in names))
    assert split_names(join_names(names)) == wanted == split_names(join_names(wanted))


@given(nasty, nasty, st.lists(nasty.filter(str.strip), max_size=3), nasty, nasty)
def test_a_row_that_goes_out_comes_in_as_it_was_and_goes_out_the_same(text, comment, labels, field, own):
    """Apostrophes, signs that begin formulas, quotation marks, separators and line ends anywhere (RFC 4180; OWASP)."""
    header = ["date", "time", "profiles", "text", "first comment", "labels", "field board", "text brisk"]

    def out(row: Row) -> bytes:
        cells = [f"{row.day}", f"{row.at:%H:%M}", join_names(row.profiles), row.text, row.first_comment]
        more = [join_names(row.labels), row.fields.get("board", ""), row.texts.get("brisk", "")]
        return b"".join(write_csv(header, [[*cells, *more]]))

    first = b"".join(
        write_csv(header, [["2026-12-01", "15:00", "plaza:@a", text, comment, join_names(labels), field, own]])
    )
    (row,) = parse_rows(parse_table(first), NETWORKS, {"board"})
    assert not row.faults
    blank = [said if said.strip() else "" for said in (text, comment, field, own)]
    assert [row.text, row.first_comment, row.fields.get("board", ""), row.texts.get("brisk", "")] == blank
    (again,) = parse_rows(parse_table(out(row)), NETWORKS, {"board"})
    assert (replace(again, mark="") == replace(row, mark="")) and out(again) == out(row)


@pytest.mark.parametrize(
    ("row", "at"),
    [
        ("2026-12-01 15:00,", time(15)),
        ("2026-12-01T15:00,", time(15)),
        ("2026-12-01T15:00:00,15:00", time(15)),
        ("1.12.2026 3 pm,", time(15)),
        ("01/12/2026 15:00,3 pm", time(15)),
        ("2026-12-01 00:00:00,", time(0)),
    ],
)
def test_a_date_with_a_time_is_read_as_both(row, at):
    (found,) = [
        r
        for r in parse_rows(parse_table(f"date,time,profiles\n25/12/2026,15:00,a\n{row},a\n".encode()), [])
        if r.line == 3
    ]
    assert (found.day, found.at, found.faults) == (date(2026, 12, 1), at, ())


@pytest.mark.parametrize(
    ("row", "column", "words"),
    [
        ("2026-12-01 15:00,16:00", "date", "says 15:00 and the time says 16:00"),
        ("2026-12-01 15:00,slot", "date", "slot"),
        ("2026-12-01 00:00:00,15:00", "date", "00:00:00"),
        ("2026-12-01 soon,", "date", "no time"),
        ("2026-12-01T15:00Z,", "date", "offset"),
        ("2026-12-01T15:00+01:00,", "date", "offset"),
        ("2026-12-01 25:00,", "date", "no time"),
        ("2026-12-01,15:00 +02:00", "time", "offset"),
    ],
)
def test_a_date_with_a_time_is_never_read_by_half(row, column, words):
    (found,) = parse_rows(parse_table(f"date,time,profiles\n{row},a\n".encode()), [])
    assert [(f.column, words in f.message) for f in found.faults] == [(column, True)]


def test_a_date_with_a_time_needs_no_column_for_it():
    (row,) = parse_rows(parse_table(b"date,profiles\n2026-12-01 15:00,a\n"), [])
    assert (row.day, row.at) == (date(2026, 12, 1), time(15))


@pytest.mark.parametrize(
    ("header", "words"),
    [
        ("date,profiles,text,caption", "twice"),
        ("date,day,profiles", "twice"),
        ("date,profiles,text brisk,text: brisk", "twice"),
        ("date,profiles,field board,field Board", "twice"),
        ("date,profiles,field unheard", "no column that Menudo knows"),
        ("date,profiles,text unheard", "no column that Menudo knows"),
    ],
)
def test_a_column_twice_or_unknown_is_named(header, words):
    with pytest.raises(InvalidTableError, match=words):
        parse_rows(parse_table(f"{header}\n2026-12-01,a,x,y\n".encode()), NETWORKS, {"board"})


def test_what_stands_where_it_cant_be_read_is_named_there():
    long = "x" * 200_000
    table = parse_table(f'date,profiles,,text\n2026-12-01,a,lost,x\n2026-12-01,a,,"{long}"\n'.encode())
    first, second = parse_rows(table, NETWORKS)
    assert "Column 3 has no name" in first.faults[0].message
    assert (second.faults[0].column, "200,000" in second.faults[0].message) == ("text", True)
    (third,) = parse_rows(parse_table(f'date,profiles\n2026-12-01,a,"{long}"\n'.encode()), NETWORKS)
    assert [f.column for f in third.faults] == ["", ""], "too long, and beside the table"
    (blank,) = parse_rows(parse_table(b"date,profiles\n2026-12-01,a, ,\n"), NETWORKS)
    assert not blank.faults


def test_a_fault_stands_at_the_column_as_the_file_names_it():
    (row,) = parse_rows(parse_table(b"Date,Profiles,Text\nsoon,a,x\n"), NETWORKS)
    assert [fault.column for fault in row.faults] == ["Date"]


def test_a_column_whose_dates_contradict_each_other_is_named_at_each():
    table = parse_table(b"date,profiles\n25/12/2026,a\n12/26/2026,a\n01/02/2026,a\n2026-12-01,a\n")
    found = parse_rows(table, NETWORKS)
    assert [bool(r.faults) for r in found] == [True, True, True, False]
    assert all("25/12/2026" in r.faults[0].message and "12/26/2026" in r.faults[0].message for r in found[:3])
