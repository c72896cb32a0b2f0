"""The media library: what lies where, found, used, arranged, binned; and what is brought in."""

import base64
import io
import stat
import threading
import zipfile
from datetime import timedelta

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from menudo.base import clock
from menudo.labels.models import Label
from menudo.library import files
from menudo.library.actions.bin_assets import empty_bin
from menudo.library.models import Asset, Folder, Store
from menudo.library.webdav import StoreError, WebDav
from menudo.posts.models import Post
from tests.films import PLACE, film
from tests.server.conftest import in_thread, picture, post_in
from tests.server.test_posts import pointers


def up(world, name: str = "moss.jpg", size=(640, 480), **more) -> int:
    return world.api().upload(picture(size, **more), name).json()["id"]


def names(world, query: str = "") -> list[str]:
    return [a["name"] for a in world.api()("GET", f"assets?{query}", status=200)["assets"]]


def test_a_video_is_known_by_its_content_and_loses_what_tells_where_it_was_taken(world):
    data = film((360, 640), 3.0, place=True)
    assert PLACE.encode() in data
    said = world.api().upload(data, "round.jpg").json()
    assert (said["kind"], said["format"], said["codec"], said["width"], said["height"]) == (
        "video",
        "mp4",
        "h264",
        360,
        640,
    )
    assert said["seconds"] == pytest.approx(3.0, abs=0.15)
    kept = files.file_path(Asset.objects.get().sha256).read_bytes()
    assert PLACE.encode() not in kept and b"taken at home" not in kept
    thumb = world.api().client.get(f"/media/garden/{said['id']}/frame?at=2.5&w=90")
    assert thumb.status_code == 200 and thumb["Content-Type"] == "image/webp"
    for bad in ("at=-1", "at=x", "w=0", "w=9999999"):
        assert world.api().client.get(f"/media/garden/{said['id']}/frame?{bad}").status_code == 404


def test_a_video_in_another_container_is_packed_anew_and_one_cut_short_is_refused(world):
    assert world.api().upload(film(codec="libx264", fmt="matroska"), "a.mkv").json()["format"] == "mp4"
    broken = world.api().upload(film()[:900], "cut.mp4")
    assert broken.status_code == 422 and "damaged" in broken.json()["detail"]
    empty_box = world.api().upload(b"\x00\x00\x00\x18ftypmp42" + b"\x00" * 40, "none.mp4")
    assert empty_box.status_code == 422


def test_the_same_picture_twice_is_one_asset_and_one_in_the_bin_comes_out(world):
    first = up(world)
    assert up(world, "again.jpg") == first
    world.api()("POST", "media/bin", {"ids": [first]}, status=200)
    assert names(world) == [] and names(world, "binned=true") == ["moss.jpg"]
    assert up(world) == first and names(world) == ["moss.jpg"]


def test_it_is_found_by_name_alt_text_caption_label_and_the_words_of_a_post(world):
    moss, wall = up(world, "moss.jpg"), up(world, "wall.jpg", colour="#123456")
    api = world.api()
    api(
        "PATCH",
        f"assets/{moss}",
        {"alt": "Green cushions", "labels": ["winter", "Winter", " upright "], "caption": "Soft as felt"},
        status=200,
    )
    api("POST", "posts", post_in("The old glasshouse", media=[wall]), status=201)
    for words in ("moss", "cushions", "FELT", "upright", "soft winter"):
        assert names(world, f"words={words}") == ["moss.jpg"], words
    assert names(world, "words=glasshouse") == ["wall.jpg"] and names(world, "words=moss wall") == []
    assert names(world, "label=winter") == ["moss.jpg"] and names(world, "kind=video") == []
    assert names(world, "used=false") == ["moss.jpg"] and names(world, "used=true") == ["wall.jpg"]
    (use,) = api("GET", f"assets/{wall}/uses", status=200)
    assert use["excerpt"] == "The old glasshouse"
    shelves = api("GET", "shelves", status=200)
    assert [(x["label"], x["count"]) for x in shelves["labels"]] == [("upright", 1), ("winter", 1)]


def test_many_are_moved_copied_and_labelled_at_once(world):
    ids = [up(world, f"{n}.jpg", (640, 480 + n)) for n in range(3)]
    api = world.api()
    folder = api("POST", "folders", {"name": "Moss week"}, status=201)["id"]
    assert api("POST", "media/move", {"ids": ids, "folder": folder}, status=200)["count"] == 3
    api("PATCH", f"assets/{ids[0]}", {"caption": "First"}, status=200)
    copies = api("POST", "media/copy", {"ids": ids[:1], "folder": folder}, status=200)
    assert copies[0]["name"] == "Copy of 0.jpg" and copies[0]["caption"] == "First"
    api("PATCH", f"assets/{copies[0]['id']}", {"caption": "Mine"}, status=200)
    assert Asset.objects.get(pk=ids[0]).caption == "First", "a copy's words are its own"
    Label.objects.create(brand=world.garden, name="Winter", ink="moss")
    Label.objects.create(brand=world.bakery, name="upright")
    api("POST", "media/label", {"ids": ids, "add": ["winter", " upright "], "remove": []}, status=200)
    # They are the brand's own labels, its posts' as well; another brand's are not touched.
    labels = {label["name"]: label["ink"] for label in api("GET", "labels", status=200)}
    assert labels == {"Winter": "moss", "upright": "anil"}
    copied = api("POST", "media/copy", {"ids": ids[:1], "folder": None}, status=200)
    assert copied[0]["labels"] == ["upright", "Winter"]
    api("POST", "media/bin", {"ids": [copied[0]["id"]]}, status=200)
    assert (
        api("PATCH", f"assets/{ids[2]}", {"labels": ["ok", "x" * 41]}, status=422)["errors"][0]["pointer"]
        == "/labels/1"
    )
    api("POST", "media/label", {"ids": ids[:1], "add": [], "remove": ["WINTER"]}, status=200)
    assert sorted(a.pk for a in Asset.objects.filter(labels__name="Winter", deleted_at=None)) == sorted(ids[1:])
    shelves = api("GET", "shelves", status=200)
    assert shelves["folders"][0]["count"] == 4 and shelves["loose"] == 0
    # The same file counts once for the storage.
    assert shelves["bytes"] == sum({a.sha256: a.size for a in Asset.objects.all()}.values())
    api("POST", "media/move", {"ids": [*ids, 10**9]}, status=404)


def test_removing_a_folder_deletes_nothing_that_lies_in_it(world):
    folder = world.api()("POST", "folders", {"name": "Moss"}, status=201)["id"]
    world.api()("POST", "media/move", {"ids": [up(world)], "folder": folder}, status=200)
    assert world.api()("DELETE", f"folders/{folder}", status=200)["count"] == 1
    assert names(world, "folder=0") == ["moss.jpg"]
    taken = {"name": "Twice"}
    world.api()("POST", "folders", taken, status=201)
    assert pointers(world.api()("POST", "folders", taken, status=422)) == {"/name"}


def test_what_a_post_uses_does_not_go_to_the_bin_and_what_lay_there_long_is_deleted(world, monkeypatch):
    used, loose = up(world, "used.jpg"), up(world, "loose.jpg", colour="#111111")
    post = world.api()("POST", "posts", post_in(media=[used]), status=201)
    problem = world.api()("POST", "media/bin", {"ids": [used, loose]}, status=409)
    assert "1 of these is used in 1 post" in problem["detail"]
    world.api()("PUT", f"posts/{post['id']}", post_in(), post["revision"], 200)
    assert world.api()("POST", "media/bin", {"ids": [used, loose]}, status=200)["count"] == 2
    world.api()("POST", "media/restore", {"ids": [used]}, status=200)
    path, now = files.file_path(Asset.objects.get(pk=loose).sha256), clock.now()
    assert empty_bin() == 0 and path.exists()
    monkeypatch.setattr(clock, "now", lambda: now + timedelta(days=31))
    assert empty_bin() == 1 and not path.exists() and list(Asset.objects.values_list("pk", flat=True)) == [used]


def test_pages_of_a_large_library_follow_each_other_without_gaps(world, django_assert_max_num_queries):
    base = Asset.objects.get(pk=up(world))
    Asset.objects.bulk_create(
        [
            Asset(
                brand=world.garden,
                name=f"{n}",
                kind="picture",
                format="jpeg",
                width=1,
                height=1,
                size=1,
                sha256=f"{n:064}",
            )
            for n in range(130)
        ]
    )
    api, seen, before = world.api(), [], ""
    while True:
        with django_assert_max_num_queries(12):
            page = api("GET", f"assets?words={before}", status=200)
        if not page["assets"]:
            break
        seen += [a["id"] for a in page["assets"]]
        before = f"&before={seen[-1]}"
    assert page["total"] == len(seen) == len(set(seen)) == 131 and seen[-1] == base.pk


def zipped(entries: dict[str, bytes], **how) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", **how) as archive:
        for name, data in entries.items():
            archive.writestr(name, data)
    return out.getvalue()


def bring(world, data: bytes, name: str = "week.zip"):
    file = io.BytesIO(data)
    file.name = name
    return world.api().client.post("/api/brands/garden/zips", {"file": file})


def test_a_zip_brings_folders_pictures_and_captions_and_names_what_it_leaves(world):
    said = bring(
        world,
        zipped(
            {
                "Moss/one.jpg": picture(),
                "Moss/one.txt": b"Soft as ___\n",
                "two.png": picture((300, 300), "PNG"),
                "film.mp4": film(seconds=1),
                "notes.pdf": b"%PDF-1.7",
                "__MACOSX/one.jpg": b"x",
                "Moss/.DS_Store": b"x",
            }
        ),
    ).json()
    assert sorted(a["name"] for a in said["added"]) == ["film.mp4", "one.jpg", "two.png"]
    assert [x["name"] for x in said["left"]] == ["notes.pdf"] and "not a JPEG" in said["left"][0]["reason"]
    one = Asset.objects.get(name="one.jpg")
    assert one.folder.name == "Moss" and one.caption == "Soft as ___"


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"no zip at all", "is not a ZIP"),
        (zipped({}), "nothing in"),
        (zipped({"a.pdf": b"%PDF"}), "could be taken"),
        (zipped({"../../etc/a.jpg": b"x", "/root/b.jpg": b"y"}), "could be taken"),
    ],
)
def test_a_bad_zip_is_told_at_its_field(world, data, words):
    answer = bring(world, data)
    assert answer.status_code == 422 and words in answer.json()["detail"] and pointers(answer.json()) == {"/file"}
    assert not Asset.objects.exists()


def test_a_zip_that_swells_or_holds_too_much_or_points_elsewhere_is_not_unpacked(world, settings):
    settings.ZIP_MOST_BYTES = 1_000_000
    bomb = zipped({"a.jpg": b"\0" * 5_000_000}, compression=zipfile.ZIP_DEFLATED)
    assert len(bomb) < 10_000 and "unpacks to 5 MB" in bring(world, bomb).json()["detail"]
    settings.ZIP_MOST_FILES = 3
    assert "holds 4 files" in bring(world, zipped({f"{n}.jpg": b"x" for n in range(4)})).json()["detail"]
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        link = zipfile.ZipInfo("a.jpg")
        link.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(link, "/etc/passwd")
    assert bring(world, out.getvalue()).status_code == 422


def test_what_stands_outside_a_zip_or_is_packed_to_swell_is_left_and_makes_no_folder(world):
    entries = {
        "../evil.jpg": picture(),
        "..\\sly.jpg": picture(),
        "Moss\\one.jpg": picture(),
        "two.jpg": picture((300, 300)),
    }
    said = bring(world, zipped(entries)).json()
    assert sorted(a["name"] for a in said["added"]) == ["one.jpg", "two.jpg"]
    assert [x["reason"] for x in said["left"]] == [
        "“evil.jpg” stands outside its ZIP.",
        "“sly.jpg” stands outside its ZIP.",
    ]
    assert [folder.name for folder in Folder.objects.all()] == ["Moss"]
    # A caption of a hundred megabytes in fifteen thousand bytes; its picture comes without it.
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("wall.jpg", picture((310, 300)))
        archive.writestr("wall.txt", b"\0" * 100_000_000, compress_type=zipfile.ZIP_LZMA)
        archive.writestr("Ferns/odd.jpg", picture((320, 300)), compress_type=zipfile.ZIP_BZIP2)
    said = bring(world, out.getvalue()).json()
    assert [a["name"] for a in said["added"]] == ["wall.jpg"] and not Asset.objects.get(name="wall.jpg").caption
    assert [(x["name"], x["reason"]) for x in said["left"]] == [
        (name, f"“{name.split('/')[-1]}” is packed in an unusual way. Pack it again, as a plain ZIP.")
        for name in ("wall.txt", "Ferns/odd.jpg")
    ]
    assert not Folder.objects.filter(name="Ferns").exists()


def test_a_caption_is_unpacked_once_however_many_pictures_have_its_name(world, monkeypatch):
    pictures = {f"a.{end}": picture((300 + n, 300)) for n, end in enumerate(("jpg", "jpeg", "png"))}
    data, opened, whole = zipped({"a.txt": b"Soft", **pictures}), [], zipfile.ZipFile.open

    def opens(archive: zipfile.ZipFile, entry: zipfile.ZipInfo, **how):
        opened.append(entry.filename)
        return whole(archive, entry, **how)

    monkeypatch.setattr(zipfile.ZipFile, "open", opens)
    said = bring(world, data)
    assert len(said.json()["added"]) == 3 and {a.caption for a in Asset.objects.all()} == {"Soft"}
    assert opened.count("a.txt") == 1


def test_a_bundle_is_copied_made_ones_own_and_laid_out_as_drafts(world):
    api = world.api()
    bundle = api("POST", "folders", {"name": "Six loaves", "bundle": True}, status=201)["id"]
    ids = [up(world, f"{n}.jpg", (640, 480 + n)) for n in range(2)]
    api("POST", "media/move", {"ids": ids, "folder": bundle}, status=200)
    for n, asset_id in enumerate(ids):
        api("PATCH", f"assets/{asset_id}", {"caption": f"Loaf {n} from ___."}, status=200)
    mine = api("POST", f"folders/{bundle}/copy", {"name": "Our loaves"}, status=201)
    assert mine["bundle"] is True
    copies = sorted(Asset.objects.filter(folder=mine["id"]), key=lambda a: a.pk)
    body = {"ids": [a.pk for a in copies], "profiles": [world.profile.pk]}
    problem = api("POST", "drafts", body, status=422)
    assert pointers(problem) == {"/ids"} and "0.jpg, 1.jpg" in problem["detail"] and not Post.objects.exists()
    for a in copies:
        api("PATCH", f"assets/{a.pk}", {"caption": a.caption.replace("___", "the mill")}, status=200)
    made = api("POST", "drafts", body, status=201)["posts"]
    assert [Post.objects.get(pk=p).master["text"] for p in made] == ["Loaf 0 from the mill.", "Loaf 1 from the mill."]
    assert Asset.objects.get(pk=ids[0]).caption == "Loaf 0 from ___.", "the bundle stays as it was"
    assert pointers(api("POST", "drafts", {**body, "profiles": [world.foreign.pk]}, status=422)) == {"/profiles/0"}


@pytest.fixture
def store(world, standin) -> dict:
    files = {
        "Walk/one.jpg": picture(),
        "Walk/Deep er/two.png": picture((300, 300), "PNG"),
        "read me.txt": b"hello",
        "día/tres.jpg": picture((200, 200)),
    }
    standin.control("seed", {"shared": {path: base64.b64encode(data).decode() for path, data in files.items()}})
    said = {"name": "The valley", "address": f"{standin.url}/store", "user": "desk", "password": "starlight"}
    return world.api()("POST", "stores", said, status=201)


def test_media_come_in_from_a_shared_store_over_webdav(world, store):
    api = world.api()
    listed = api("GET", f"stores/{store['id']}", status=200)
    assert [(e["name"], e["folder"]) for e in listed] == [("día", True), ("Walk", True), ("read me.txt", False)]
    inside = api("GET", f"stores/{store['id']}?path=Walk", status=200)
    assert [e["path"] for e in inside] == ["Walk/Deep er", "Walk/one.jpg"]
    folder = api("POST", "folders", {"name": "Walk"}, status=201)["id"]
    paths = ["Walk/one.jpg", "Walk/Deep er/two.png", "día/tres.jpg", "read me.txt", "Walk/none.jpg"]
    said = api("POST", f"stores/{store['id']}", {"paths": paths, "folder": folder}, status=200)
    assert [a["name"] for a in said["added"]] == ["one.jpg", "two.png", "tres.jpg"]
    assert {x["name"] for x in said["left"]} == {"read me.txt", "Walk/none.jpg"}
    assert Folder.objects.get().assets.count() == 3


def test_a_stores_password_is_sealed_and_never_told(world, store):
    row = Store.objects.get()
    assert "starlight" not in row.password and "password" not in world.api()("GET", "stores", status=200)[0]


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"password": "wrong"}, "/password"),
        ({"address": "nowhere"}, "/address"),
        ({"address": "http://127.0.0.1:1/dav"}, "/address"),
        ({"address": "http://169.254.169.254/dav"}, "/address"),
        ({"name": " "}, "/name"),
    ],
)
def test_a_store_that_cannot_be_reached_is_not_kept(world, standin, change, pointer):
    said = {"name": "The valley", "address": f"{standin.url}/store", "user": "desk", "password": "starlight", **change}
    assert pointers(world.api()("POST", "stores", said, status=422)) == {pointer} and not Store.objects.exists()


@pytest.mark.parametrize("path", ["../../etc", "Walk/../..", "./x"])
def test_a_path_out_of_the_store_leads_nowhere(world, store, path):
    assert pointers(world.api()("GET", f"stores/{store['id']}?path={path}", status=422)) == {"/path"}
    with pytest.raises(StoreError):
        WebDav("http://127.0.0.1:1", "", "").list(path)


@pytest.mark.parametrize(
    ("room", "bad", "pointer"),
    [
        ("snippets", {"name": "A", "text": " "}, "/text"),
        ("snippets", {"name": " ", "text": "x"}, "/name"),
        ("tag-sets", {"name": "A", "tags": ["moss", "a b"]}, "/tags/1"),
        ("tag-sets", {"name": "A", "tags": ["", " "]}, "/tags"),
        ("link-tags", {"name": "A"}, "/source"),
        ("link-tags", {"name": "A", "source": "a\u0000"}, "/source"),
    ],
)
def test_what_is_said_again_is_kept_whole_or_not_at_all(world, room, bad, pointer):
    assert pointers(world.api()("POST", room, bad, status=422)) == {pointer}


def test_a_tag_set_has_each_tag_once_and_names_are_taken_once(world):
    made = world.api()("POST", "tag-sets", {"name": "Moss", "tags": ["#moss", "Moss", "día", ""]}, status=201)
    assert made["tags"] == ["moss", "día"]
    assert pointers(world.api()("POST", "tag-sets", {"name": "Moss", "tags": ["x"]}, status=422)) == {"/name"}
    changed = world.api()("PUT", f"tag-sets/{made['id']}", {"name": "Moss", "tags": ["x"]}, status=200)
    assert changed["tags"] == ["x"]
    body = {"text": "On #MOSS", "tags": ["moss", "wall"]}
    assert world.api()("POST", "hashtags/insert", body, status=200)["text"] == "On #MOSS #wall"
    world.api()("DELETE", f"tag-sets/{made['id']}", status=204)
    assert world.api()("GET", "sayings", status=200)["tag_sets"] == []


def test_two_who_make_the_same_label_at_once_share_it(world):
    ids = [up(world, f"{n}.jpg", (640, 480 + n)) for n in range(2)]
    ready, statuses = threading.Barrier(2), []

    def label(client: Client, asset: int, name: str) -> None:
        ready.wait(20)
        body = {"ids": [asset], "add": [name], "remove": []}
        statuses.append(client.post("/api/brands/garden/media/label", body, "application/json").status_code)

    clients = [world.api().client for _ in ids]
    threads = [in_thread(label, *one) for one in zip(clients, ids, ("Winter", "WINTER"), strict=True)]
    for thread in threads:
        thread.join(30)
    assert statuses == [200, 200]
    (row,) = Label.objects.filter(brand=world.garden)
    assert {asset.pk for asset in row.assets.all()} == set(ids)


def test_many_are_told_in_a_fixed_number_of_statements(world):
    ids = [up(world, f"{n}.jpg", (640, 480 + n)) for n in range(4)]
    world.api()("POST", "media/label", {"ids": ids, "add": ["winter", "upright"], "remove": []}, status=200)
    api = world.api()
    api("POST", "media/copy", {"ids": ids[:1], "folder": None}, status=200)
    # What it takes doesn't grow with how many there are.
    with CaptureQueriesContext(connection) as few:
        api("POST", "media/copy", {"ids": ids[:1], "folder": None}, status=200)
    with CaptureQueriesContext(connection) as many:
        copies = api("POST", "media/copy", {"ids": ids, "folder": None}, status=200)
    assert len(many) == len(few)
    assert [copy["labels"] for copy in copies] == [["upright", "winter"]] * 4
