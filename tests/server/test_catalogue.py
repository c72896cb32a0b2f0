"""Catalogues: read from CSV, JSON and JSON-LD, what happened noted once, said by hand, brought as files."""

import io
import json
from datetime import timedelta
from decimal import Decimal

import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from menudo.base import clock
from menudo.catalogue import tasks
from menudo.catalogue.actions.poll_catalogue import poll_catalogue
from menudo.catalogue.models import Catalogue, CatalogueEvent, CatalogueItem
from menudo.catalogue.row_parser import NotACatalogueError, parse_rows
from menudo.notices.models import Notice
from tests.server.test_posts import pointers

# schema.org's Product and Offer as its pages describe them (from memory).
LINKED = {
    "@context": "https://schema.org",
    "@graph": [
        {"@type": "WebSite", "name": "No thing"},
        {
            "@type": "Product",
            "sku": "H1",
            "name": "Hellebore",
            "image": {"url": "https://example.org/h.jpg"},
            "offers": {
                "@type": "Offer",
                "price": 12.5,
                "priceCurrency": "EUR",
                "availability": "https://schema.org/InStock",
            },
        },
        {
            "@type": ["Product"],
            "sku": "F1",
            "name": "Fern",
            "offers": [
                {"@type": "Offer", "price": "8", "priceCurrency": "EUR", "availability": "https://schema.org/SoldOut"}
            ],
        },
    ],
}


@pytest.fixture
def api(world):
    return world.api()


def put(standin, text: str, path: str = "plants.csv", kind: str = "text/csv") -> str:
    return standin.control("files", {"site": "fernhollow", "path": path, "type": kind, "text": text})["url"]


def test_json_ld_in_a_page_or_by_itself_json_and_csv_are_read_into_the_same_things(world, api, standin):
    page = f"<html><script type='application/ld+json'>{json.dumps(LINKED)}</script>"
    flat = [
        {"id": "H1", "title": "Hellebore", "price": 12.5, "currency": "EUR"},
        {"id": "F1", "title": "Fern", "price": 8, "currency": "EUR", "status": "sold"},
    ]
    csv = "ref;name;price;status\nH1;Hellebore;12,50 €;available\nF1;Fern;8 €;sold\n"
    for text, path, kind in (
        (page, "a.html", "text/html"),
        (json.dumps(LINKED), "a.json", "application/ld+json"),
        (json.dumps({"count": 2, "items": flat}), "b.json", "application/json"),
        (csv, "c.csv", "text/csv"),
    ):
        found = api("POST", "catalogues/inspect", {"address": put(standin, text, path, kind)}, status=200)
        rows = {row["key"]: row for row in found["rows"]}
        assert found["count"] == 2 and rows["H1"]["price"] == "€ 12.50" and rows["F1"]["availability"] == "sold", path
        assert not rows["H1"]["faults"] and rows["H1"]["availability"] == "free"
    assert parse_rows(page.encode()).rows[0]["image"] == "https://example.org/h.jpg"


@pytest.mark.parametrize("body", [b"", b"{", b"[]", b'{"a": 1}', b"<html>", b"one\n1\n", b"\x00\x01", b"[" * 5000])
def test_what_is_no_catalogue_says_so(body):
    with pytest.raises(NotACatalogueError):
        parse_rows(body)


def made(api, standin, text: str, **more) -> int:
    address = put(standin, text)
    mapping = api("POST", "catalogues/inspect", {"address": address}, status=200)["mapping"]
    return api("POST", "catalogues", {"name": "Nursery", "address": address, "mapping": mapping, **more}, status=201)[
        "id"
    ]


def test_what_happens_between_readings_is_noted_once(world, api, standin):
    head = "key,name,price,currency,status,pot,openday\n"
    rules = [{"name": "Bigger pot", "field": "pot", "change": "rises"}]
    catalogue_id = made(
        api, standin, head + "A,Aster,9,EUR,,1,\nB,Basil,3,EUR,,1,\nC,Clover,2,EUR,coming,1,\n", rules=rules
    )
    assert not CatalogueEvent.objects.exists() and CatalogueItem.objects.count() == 3
    put(
        standin,
        head + "A,Aster,7.50,EUR,,2,2027-03-31\nB,Basil,3,EUR,sold,1,\nC,Clover,2,EUR,free,1,\nD,Dill,2,EUR,,1,\n",
    )
    assert poll_catalogue(catalogue_id) == 6 and poll_catalogue(catalogue_id) == 0
    page = api("GET", f"catalogues/{catalogue_id}", status=200)
    assert {(h["title"], h["event"]) for h in page["events"]} == {
        ("Aster", "Price lowered"),
        ("Aster", "Bigger pot"),
        ("Aster", "Open day"),
        ("Basil", "Sold"),
        ("Clover", "New in"),
        ("Dill", "New in"),
    }
    lowered = next(h for h in page["events"] if h["event"] == "Price lowered")
    assert (lowered["before"], lowered["price"]) == ("€ 9", "€ 7.50")
    assert api("GET", f"catalogues/{catalogue_id}?words=bas", status=200)["count"] == 1
    # Its columns are others: nothing is taken in, and it says so.
    put(standin, "what,else\n1,2\n")
    poll_catalogue(catalogue_id)
    assert "columns" in Catalogue.objects.get().last_error and CatalogueItem.objects.count() == 4


def test_settings_are_changed_from_what_one_saw_also_while_its_site_is_down(world, api, standin):
    catalogue_id = made(api, standin, "key,name,price\nA,Aster,9\n", currency="EUR")
    now = api("GET", f"catalogues/{catalogue_id}", status=200)["catalogue"]
    standin.control("files", {"site": "fernhollow", "path": "plants.csv", "text": "x", "status": 503})
    said = {
        **{name: now[name] for name in ("address", "mapping", "currency", "interval_minutes")},
        "name": "Plants",
        "rules": [],
    }
    kept = api("PUT", f"catalogues/{catalogue_id}", said, now["revision"], 200)
    assert kept["name"] == "Plants"
    api("PUT", f"catalogues/{catalogue_id}", said, now["revision"], 412)
    other = {**said, "mapping": {**said["mapping"], "about": "nosuch"}}
    assert pointers(api("PUT", f"catalogues/{catalogue_id}", other, kept["revision"], 422)) == {"/address"}
    api("DELETE", f"catalogues/{catalogue_id}", status=204)
    assert not CatalogueItem.objects.exists()


def test_rows_that_are_not_understood_are_told_first(world, api, standin):
    address = put(standin, "key,name,price,status,openday\nA,Good,3,,\nB,Bad,cheap,upside down,soon\n,Keyless,1,,\n")
    rows = api("POST", "catalogues/inspect", {"address": address}, status=200)["rows"]
    assert [len(row["faults"]) for row in rows] == [3, 1, 0]
    bad = {
        "name": " ",
        "address": address,
        "mapping": {"title": "nosuch"},
        "interval_minutes": 1,
        "rules": [{"name": "", "field": "pot"}],
    }
    assert pointers(api("POST", "catalogues", bad, status=422)) == {
        "/name",
        "/interval_minutes",
        "/mapping/key",
        "/mapping/title",
        "/rules/0/name",
    }
    assert pointers(api("POST", "catalogues/inspect", {"address": "nowhere"}, status=422)) == {"/address"}


def test_a_file_is_brought_again_and_again_and_its_mapping_is_remembered(world, api):
    def send(path: str, text: str, **form):
        file = io.BytesIO(text.encode())
        file.name = "plants.csv"
        return api.client.post(f"/api/brands/garden/catalogues/{path}", {"file": file, **form})

    looked = send("inspect/file", "no,plant,price\n1,Aster,9\n").json()
    mapping = {**looked["mapping"], "key": "no", "title": "plant"}
    assert (looked["rows"][0]["key"], looked["rows"][0]["title"]) != ("1", "Aster")
    again = send(
        "inspect/file", "no,plant,price\n1,Aster,9\n", settings=json.dumps({"address": "", "mapping": mapping})
    ).json()
    assert (again["rows"][0]["key"], again["rows"][0]["title"]) == ("1", "Aster")
    assert send("inspect/file", "no,plant\n1,Aster\n", settings="{").status_code == 422
    said = json.dumps({"name": "Nursery", "mapping": mapping, "currency": "EUR"})
    catalogue_id = send("file", "no,plant,price\n1,Aster,9\n", settings=said).json()["id"]
    assert send(f"{catalogue_id}/file", "no,plant,price\n1,Aster,8\n2,Basil,3\n").json() == {"events": 2}
    assert send(f"{catalogue_id}/file", "no,plant,price\n1,Aster,8\n2,Basil,3\n").json() == {"events": 0}
    assert send(f"{catalogue_id}/file", "other,columns\n1,2\n").status_code == 422
    assert send("file", "no,plant\n1,Aster\n", settings='{"name": 3, "extra": 1}').status_code == 422


def test_what_happened_can_be_said_by_hand(world, api, standin):
    made(api, standin, "key,name,price\nA,Aster,9\n", currency="EUR")
    thing = CatalogueItem.objects.get()
    said = api("POST", f"items/{thing.pk}/events", {"kind": "lowered", "price": "6.00"}, status=201)
    assert (said["event"], said["before"], said["price"]) == ("Price lowered", "€ 9", "€ 6")
    for body, pointer in (
        ({"kind": "lowered", "price": "7"}, "/price"),
        ({"kind": "open_day"}, "/open_day"),
        ({"kind": "own", "name": "x"}, "/name"),
    ):
        assert pointers(api("POST", f"items/{thing.pk}/events", body, status=422)) == {pointer}
    api("POST", f"items/{thing.pk}/events", {"kind": "sold"}, status=201)
    api("POST", f"items/{thing.pk}/events", {"kind": "sold"}, status=409)
    thing.refresh_from_db()
    assert thing.availability == "sold"


def test_what_was_said_by_hand_is_neither_taken_back_nor_told_again_by_a_catalogue_that_lags(world, api, standin):
    head = "key,name,price,currency,status\n"
    catalogue_id = made(api, standin, head + "A,Aster,9,EUR,\nB,Basil,3,EUR,\n")
    aster, basil = CatalogueItem.objects.order_by("key")
    api("POST", f"items/{aster.pk}/events", {"kind": "reserved"}, status=201)
    api("POST", f"items/{basil.pk}/events", {"kind": "lowered", "price": "2.50"}, status=201)
    # The site doesn't know yet: only what is new with it happens.
    put(standin, head + "A,Aster,9,EUR,\nB,Basil,3,EUR,\nC,Clover,2,EUR,\n")
    assert poll_catalogue(catalogue_id) == 1
    aster.refresh_from_db()
    basil.refresh_from_db()
    assert (aster.availability, basil.price) == ("reserved", Decimal("2.50"))
    # It follows: nothing is told a second time.
    put(standin, head + "A,Aster,9,EUR,reserved\nB,Basil,2.50,EUR,\nC,Clover,2,EUR,\n")
    assert poll_catalogue(catalogue_id) == 0
    # Then it says otherwise than it did, and is believed.
    put(standin, head + "A,Aster,9,EUR,sold\nB,Basil,2,EUR,\nC,Clover,2,EUR,\n")
    assert poll_catalogue(catalogue_id) == 2
    assert sorted(CatalogueEvent.objects.values_list("item__key", "kind")) == [
        ("A", "reserved"),
        ("A", "sold"),
        ("B", "lowered"),
        ("B", "lowered"),
        ("C", "new"),
    ]


def test_freed_and_reserved_again_is_told_again_on_another_day(world, api, standin, settings):
    head = "key,name,price,currency,status\n"
    catalogue_id = made(api, standin, head + "A,Aster,9,EUR,\n")
    for day, (standing, happened) in enumerate([("reserved", 1), ("", 0), ("reserved", 1), ("", 0)]):
        settings.CLOCK_OFFSET = timedelta(days=day)
        put(standin, head + f"A,Aster,9,EUR,{standing}\n")
        assert poll_catalogue(catalogue_id) == happened
    assert CatalogueEvent.objects.count() == 2


def test_read_by_other_columns_it_begins_anew_instead_of_telling_what_only_looks_different(world, api, standin):
    head = "key,name,price,sale\n"
    catalogue_id = made(api, standin, head + "A,Aster,9,7\nB,Basil,3,2\n", currency="EUR")
    assert poll_catalogue(catalogue_id) == 0
    now = api("GET", f"catalogues/{catalogue_id}", status=200)["catalogue"]
    said = {name: now[name] for name in ("name", "address", "mapping", "currency", "interval_minutes")}
    said |= {"mapping": {**now["mapping"], "price": "sale"}, "rules": []}
    kept = api("PUT", f"catalogues/{catalogue_id}", said, now["revision"], 200)
    # The site's page is as it was: it is asked for in full all the same.
    assert poll_catalogue(catalogue_id) == 0 and CatalogueItem.objects.get(key="A").price == 7
    put(standin, head + "A,Aster,9,6\nB,Basil,3,2\n")
    assert poll_catalogue(catalogue_id) == 1
    # What doesn't bear upon the reading leaves it where it was.
    api("PUT", f"catalogues/{catalogue_id}", {**said, "name": "Plants"}, kept["revision"], 200)
    put(standin, head + "A,Aster,9,6\nB,Basil,3,1\n")
    assert poll_catalogue(catalogue_id) == 1


def test_a_site_that_cannot_be_read_is_asked_less_often_and_told_of_once(world, api, standin):
    catalogue_id = made(api, standin, "key,name,price\nA,Aster,9\n", currency="EUR")
    for n, more in enumerate([{"status": 503}, {}, {"status": 404}, {}, {"status": 500}, {"status": 500}]):
        standin.control(
            "files", {"site": "fernhollow", "path": "plants.csv", "type": "text/csv", "text": "no table", **more}
        )
        assert poll_catalogue(catalogue_id) == 0
        one = Catalogue.objects.get(pk=catalogue_id)
        assert one.failure_count == n + 1 and one.last_error and one.next_at > clock.now() + timedelta(minutes=14)
    assert Notice.objects.filter(kind="trouble", summary__contains="Nursery can't be read").count() == 1
    put(standin, "key,name,price\nA,Aster,8\n")
    assert poll_catalogue(catalogue_id) == 1
    one.refresh_from_db()
    assert (one.failure_count, one.last_error) == (0, "") and poll_catalogue(10**9) == 0


def test_catalogues_settings_are_told_at_their_fields(world, api, standin):
    address = put(standin, "key,name,price\nA,Aster,9\n")
    mapping = api("POST", "catalogues/inspect", {"address": address}, status=200)["mapping"]
    bad = {
        "name": " ",
        "address": address,
        "interval_minutes": 1,
        "mapping": {**mapping, "price": "nosuch"},
        "rules": [{"name": " ", "field": "pot", "change": "rises"}],
    }
    found = pointers(api("POST", "catalogues", bad, status=422))
    assert found == {"/name", "/interval_minutes", "/rules/0/name", "/mapping/price"}
    for nowhere in ("", "x", f"{standin.url}/site/none/a.csv", f"{standin.url}/health"):
        assert pointers(api("POST", "catalogues/inspect", {"address": nowhere}, status=422)) == {"/address"}, nowhere


def test_due_catalogues_get_a_job_each(world, api, standin):
    catalogue_id = made(api, standin, "key,name,price\nA,Aster,9\n", currency="EUR")
    Catalogue.objects.create(brand=world.garden, name="By file", next_at=None)
    tasks.poll_due_catalogues()
    (job,) = ProcrastinateJob.objects.filter(task_name="read_catalogue")
    assert (job.args, job.queue_name) == ({"catalogue": catalogue_id}, "outward")
    tasks.poll_catalogue(**job.args)
    ProcrastinateJob.objects.filter(task_name="read_catalogue").delete()
    tasks.poll_due_catalogues()
    assert not ProcrastinateJob.objects.filter(task_name="read_catalogue").exists(), "read a moment ago, it isn't due"
