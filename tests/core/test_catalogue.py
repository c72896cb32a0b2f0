"""What happens to the things of a catalogue. All things and prices are invented."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import pycountry
import pytest
from hypothesis import given
from hypothesis import strategies as st

from menudo_core.catalogue.currencies import codes_by_sign
from menudo_core.catalogue.events import (
    Availability,
    CatalogueItem,
    CustomRule,
    Event,
    EventKind,
    FieldChange,
    detect_events,
    merge_reading,
    parse_number,
)
from menudo_core.catalogue.formatting import format_day, format_price
from menudo_core.catalogue.mapping import guess_mapping, missing_fields, parse_row

TODAY = date(2026, 11, 25)
LOAF = CatalogueItem("1", "Rye loaf", Decimal("4.50"), "EUR")


def happened(was: CatalogueItem | None, now: CatalogueItem, *rules: CustomRule) -> list[str]:
    before = {} if was is None else {was.key: was}
    return [event.name or event.happened.value for event in detect_events(before, [now], TODAY, rules)]


def test_nothing_has_happened_at_the_first_reading_and_nothing_when_all_is_as_it_was():
    assert (
        detect_events(None, [LOAF], TODAY)
        == []
        == detect_events({"1": LOAF}, [LOAF, LOAF], TODAY)
        == detect_events({"1": LOAF}, [], TODAY)
    )


@pytest.mark.parametrize(
    ("was", "now", "what"),
    [
        (None, LOAF, ["new"]),
        (None, replace(LOAF, availability=Availability.COMING), ["coming"]),
        (None, replace(LOAF, availability=Availability.SOLD), []),
        (replace(LOAF, availability=Availability.COMING), LOAF, ["new"]),
        (LOAF, replace(LOAF, availability=Availability.RESERVED), ["reserved"]),
        (replace(LOAF, availability=Availability.RESERVED), LOAF, []),
        (LOAF, replace(LOAF, availability=Availability.SOLD, price=Decimal(1)), ["sold"]),
        (LOAF, replace(LOAF, price=Decimal("4.49")), ["lowered"]),
        (LOAF, replace(LOAF, price=Decimal("4.51")), []),
        (LOAF, replace(LOAF, price=Decimal("4.50000")), []),
        (LOAF, replace(LOAF, price=Decimal("3"), currency="USD"), []),
        (LOAF, replace(LOAF, price=None), []),
        (LOAF, replace(LOAF, open_day=TODAY), ["open_day"]),
        (None, replace(LOAF, open_day=TODAY), ["new", "open_day"]),
        (replace(LOAF, open_day=TODAY), replace(LOAF, open_day=TODAY), []),
        (LOAF, replace(LOAF, open_day=TODAY - timedelta(days=1)), []),
        (replace(LOAF, open_day=TODAY), replace(LOAF, open_day=TODAY + timedelta(days=7)), ["open_day"]),
        (LOAF, replace(LOAF, availability=Availability.RESERVED, price=Decimal(4)), ["reserved", "lowered"]),
    ],
)
def test_what_happened(was, now, what):
    assert happened(was, now) == what


def test_a_brands_own_events_by_what_a_field_does():
    rules = [
        CustomRule("Last few", "left", FieldChange.FALLS),
        CustomRule("Again there", "left", FieldChange.RISES),
        CustomRule("Gone", "left", FieldChange.BECOMES, " NONE "),
        CustomRule("Other flour", "flour"),
    ]
    was = replace(LOAF, more={"left": "12", "flour": "rye"})
    assert happened(was, replace(LOAF, more={"left": "3", "flour": "rye"}), *rules) == ["Last few"]
    assert happened(was, replace(LOAF, more={"left": "1.200", "flour": "spelt"}), *rules) == [
        "Again there",
        "Other flour",
    ]
    assert happened(was, replace(LOAF, more={"left": "None", "flour": "rye"}), *rules) == ["Gone"]
    assert happened(replace(was, more={"left": "none"}), replace(was, more={"left": "None"}), *rules) == []
    assert happened(was, replace(was, more={"left": "12.0", "flour": "rye"}), *rules) == [], "the same number"


def test_the_same_happening_has_one_name_and_a_further_one_another():
    low, lower = replace(LOAF, price=Decimal(4)), replace(LOAF, price=Decimal(3))
    one = Event(EventKind.LOWERED, low, Decimal("4.50"))
    assert one.dedup_key == Event(EventKind.LOWERED, low, Decimal(9)).dedup_key
    assert one.dedup_key != Event(EventKind.LOWERED, lower, Decimal(4)).dedup_key
    assert Event(EventKind.OWN, LOAF, name="a").dedup_key != Event(EventKind.OWN, LOAF, name="b").dedup_key
    # Freed and reserved again is another reservation; read twice on a day it is the same.
    held = {"1": replace(LOAF, availability=Availability.RESERVED)}
    (then,) = detect_events({"1": LOAF}, held.values(), TODAY)
    (again,) = detect_events({"1": LOAF}, held.values(), TODAY)
    (later,) = detect_events({"1": LOAF}, held.values(), TODAY + timedelta(days=9))
    assert then.dedup_key == again.dedup_key != later.dedup_key
    opens = replace(LOAF, open_day=TODAY + timedelta(days=20))
    assert (
        len({e.dedup_key for day in (0, 3) for e in detect_events({"1": LOAF}, [opens], TODAY + timedelta(days=day))})
        == 1
    ), "an open day is told once, whenever it is read"


@pytest.mark.parametrize(
    ("said", "is_"),
    [
        ("1,234.50", "1234.50"),
        ("1.234,50", "1234.50"),
        ("1 234,5 €", "1234.5"),
        ("1.234", "1234"),
        ("12,5", "12.5"),
        ("1.234.567", "1234567"),
        ("-3", "-3"),
        ("€ 4", "4"),
        ("0.5", "0.5"),
        (",5", "5"),
        ("5.", "5"),
        ("1,23", "1.23"),
        ("1234.567", "1234567"),
        ("four", None),
        ("", None),
        ("1-2", None),
    ],
)
def test_numbers_as_people_write_them(said, is_):
    assert parse_number(said) == (None if is_ is None else Decimal(is_))


things = st.builds(
    CatalogueItem,
    st.sampled_from("abc"),
    st.just("Loaf"),
    st.none() | st.decimals(0, 9, places=2),
    st.sampled_from(["EUR", "USD"]),
    st.sampled_from(Availability),
    st.none() | st.dates(TODAY - timedelta(days=2), TODAY + timedelta(days=2)),
)


@given(st.lists(st.lists(things, max_size=4), min_size=2, max_size=6))
def test_reading_the_same_again_tells_nothing_more(readings):
    known: dict[str, CatalogueItem] = {}
    for reading in readings:
        told = detect_events(known, reading, TODAY)
        assert len({e.dedup_key for e in told}) == len(told)
        first = {thing.key: thing for thing in reading[::-1]}
        known |= first
        assert detect_events(known, reading, TODAY) == []


@given(things, st.lists(things, min_size=1, max_size=5))
def test_what_a_person_said_holds_while_the_catalogue_says_what_it_said(said, readings):
    read: CatalogueItem | None = None
    present = said
    for reading in readings:
        now = merge_reading(present, read, reading)
        for name in ("availability", "open_day"):
            same = read is not None and getattr(reading, name) == getattr(read, name)
            assert getattr(now, name) == getattr(present if same else reading, name)
        assert now.title == reading.title and now.more == reading.more
        # The same reading once more changes nothing, whatever a person says in between of one of its sides.
        sold = replace(now, availability=Availability.SOLD)
        assert merge_reading(sold, reading, reading) == sold
        present, read = now, reading


def test_columns_are_known_by_their_names_and_rows_are_read_by_them():
    columns = ["SKU", "Plant name", "Name", "Offers.Price", "availability", "Photo", "pot"]
    found = guess_mapping(columns)
    assert found == {
        "key": "SKU",
        "title": "Name",
        "price": "Offers.Price",
        "standing": "availability",
        "picture": "Photo",
    }
    row = {
        "SKU": "A1",
        "Name": " Blue  aster ",
        "Offers.Price": "1.234,50 €",
        "availability": "https://schema.org/SoldOut",
        "pot": "2 l",
    }
    one = parse_row(row, found)
    assert (one.item.key, one.item.title, one.item.price) == ("A1", "Blue aster", Decimal("1234.50"))
    assert (one.item.currency, one.item.availability, one.item.more) == (
        "EUR",
        Availability.SOLD,
        {"pot": "2 l"},
    ) and not one.faults
    bad = parse_row({"SKU": "", "Name": "x", "Offers.Price": "soon", "availability": "perhaps"}, found)
    assert {field for field, _ in bad.faults} == {"key", "price", "standing"} and bad.item.price is None
    assert missing_fields({"title": "Gone"}, columns) == {
        "key": "Say which column this is.",
        "title": "There is no column “Gone”.",
    }


def test_each_column_serves_once_and_the_likeliest_name_wins():
    assert guess_mapping(["Name", "Title", "id", "SKU"]) == {"key": "SKU", "title": "Title"}
    assert guess_mapping(["offer.item.price", "Offers.PriceCurrency"]) == {
        "price": "offer.item.price",
        "currency": "Offers.PriceCurrency",
    }
    # A column that is left out isn't missed; one that was named and is gone is.
    assert missing_fields({"key": "A", "title": "B", "price": ""}, ["A", "B"]) == {}


def test_what_a_cell_holds_too_much_of_is_cut_and_quoted_short():
    mapping = {field: field for field in ("key", "title", "price", "currency", "standing", "open_day", "about")}
    row = {
        "key": "k" * 201,
        "title": "t" * 301,
        "price": "p" * 31,
        "currency": "euro",
        "standing": "s" * 31,
        "open_day": "o" * 31,
        "about": "a" * 4001,
    }
    read = parse_row(row, mapping)
    assert (len(read.item.key), len(read.item.title), len(read.about)) == (200, 300, 4000)
    assert read.item.currency == "EUR" and read.item.open_day is None
    assert dict(read.faults) == {
        "price": f"“{'p' * 30}” is no price.",
        "standing": f"“{'s' * 30}” is no standing: free, reserved, sold or coming soon.",
        "open_day": f"“{'o' * 30}” is no day. Write it like 2027-03-31.",
    }
    timed = parse_row({**row, "open_day": "2026-12-06T10:00"}, mapping)
    assert timed.item.open_day == date(2026, 12, 6) and "open_day" not in dict(timed.faults)
    assert parse_row({**row, "standing": "https://schema.org/Offer/SoldOut"}, mapping).item.availability == "sold"


def test_a_day_is_said_with_its_weekday_and_none_is_nothing():
    assert (format_day(date(2026, 12, 6)), format_day(None)) == ("Sunday 6 December", "")


def test_signs_stand_for_currencies_by_their_numbers():
    """ISO 4217, from memory: euro, dollar of the United States, pound sterling, yen."""
    numbers = {sign: pycountry.currencies.get(alpha_3=code).numeric for sign, code in codes_by_sign().items()}
    assert numbers == {"€": "978", "$": "840", "£": "826", "¥": "392"}


def test_prices_are_said_as_people_write_them():
    assert [format_price(Decimal(p), c) for p, c in (("12.50", "EUR"), ("1200", "EUR"), ("80", "CHF"), ("3", ""))] == [
        "€ 12.50",
        "€ 1,200",
        "CHF 80",
        "3",
    ]
    assert format_price(None, "EUR") == ""
