"""Files that people send: read by content, turned upright, cleaned, and refused with a reason."""

import io
from collections.abc import Callable

import pytest
from PIL import Image, ImageCms, ImageSequence

from menudo.library.media_preparation import PreparedMedia, UnreadableMediaError, prepare_media
from menudo.library.models import Asset
from tests.server.conftest import picture

SRGB = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
ORIENTATION, GPS = 0x0112, 0x8825


@pytest.fixture
def prepare(tmp_path) -> Callable[..., PreparedMedia]:
    return lambda data, name: prepare_media(data, name, tmp_path)


def turned(orientation: int) -> bytes:
    """A JPEG, red at its true top left, stored the way its EXIF orientation says (Exif 2.32, tag 274)."""
    upright = Image.new("RGB", (60, 40), "#2f6b4a")
    upright.paste((200, 30, 30), (0, 0, 20, 20))
    back = {
        1: [],
        2: [Image.Transpose.FLIP_LEFT_RIGHT],
        3: [Image.Transpose.ROTATE_180],
        4: [Image.Transpose.FLIP_TOP_BOTTOM],
        5: [Image.Transpose.TRANSPOSE],
        6: [Image.Transpose.ROTATE_90],
        7: [Image.Transpose.TRANSVERSE],
        8: [Image.Transpose.ROTATE_270],
    }[orientation]
    stored = upright
    for step in back:
        stored = stored.transpose(step)
    exif = Image.Exif()
    exif[ORIENTATION] = orientation
    exif.get_ifd(GPS)[1] = "N"
    out = io.BytesIO()
    stored.save(out, "JPEG", quality=95, exif=exif, comment=b"taken at home")
    return out.getvalue()


@pytest.mark.parametrize("orientation", range(1, 9))
def test_every_exif_orientation_ends_upright_and_without_its_metadata(prepare, orientation):
    kept = prepare(turned(orientation), "moss.jpg")
    image = Image.open(kept.source)
    assert (kept.width, kept.height) == image.size == (60, 40)
    red, green, _ = image.convert("RGB").getpixel((8, 8))
    assert red > 150 > green
    assert not image.getexif() and "comment" not in image.info


@pytest.mark.parametrize(("kind", "file_format"), [("JPEG", "jpeg"), ("PNG", "png"), ("WEBP", "webp"), ("GIF", "gif")])
def test_the_type_is_found_by_content_whatever_the_name_says(world, kind, file_format):
    answer = world.api().upload(picture(kind=kind), "report.pdf.exe").json()
    # A GIF of one frame is kept as what it is.
    assert (answer["format"], answer["kind"]) == (file_format, "picture")


def moving(kind: str, *colours: str, size: tuple[int, int] = (30, 20)) -> bytes:
    frames = [Image.new("RGB", size, colour) for colour in colours]
    out = io.BytesIO()
    frames[0].save(out, kind, save_all=True, append_images=frames[1:], duration=200)
    return out.getvalue()


@pytest.mark.parametrize("kind", ["GIF", "PNG", "WEBP"])
def test_a_moving_picture_keeps_its_frames_and_its_length(prepare, kind):
    kept = prepare(moving(kind, "red", "green", "blue"), "a")
    assert (kept.kind, kept.format, kept.seconds) == ("animation", kind.lower(), pytest.approx(0.6))
    image = Image.open(kept.source)
    seen = [frame.convert("RGB").getpixel((9, 9)) for frame in ImageSequence.Iterator(image)]
    assert [max(range(3), key=colour.__getitem__) for colour in seen] == [0, 1, 2]


def test_a_moving_picture_has_so_many_pixels_in_all_its_frames(settings, prepare):
    settings.UPLOAD_MOST_FRAME_PIXELS = 3 * 30 * 20
    assert prepare(moving("GIF", "red", "green", "blue"), "a.gif").seconds
    with pytest.raises(UnreadableMediaError, match="All its frames together are too large"):
        prepare(moving("GIF", "red", "green", "blue", "red"), "a.gif")


def test_transparency_is_kept_and_cmyk_and_palettes_are_read(prepare):
    out = io.BytesIO()
    Image.new("RGBA", (30, 20), (10, 20, 30, 40)).save(out, "PNG")
    assert Image.open(prepare(out.getvalue(), "a.png").source).mode == "RGBA"
    out = io.BytesIO()
    Image.new("CMYK", (30, 20)).save(out, "JPEG")
    assert Image.open(prepare(out.getvalue(), "a.jpg").source).mode == "RGB"
    out = io.BytesIO()
    Image.new("P", (30, 20), 3).save(out, "PNG", transparency=3)
    assert Image.open(prepare(out.getvalue(), "a.png").source).mode == "RGBA"


def test_what_is_said_in_a_moving_picture_goes(prepare):
    """GIF89a, 24: a comment extension; WebP's and PNG's own text."""
    out, frames = io.BytesIO(), [Image.new("RGB", (30, 20), colour) for colour in ("red", "green")]
    frames[0].save(out, "GIF", save_all=True, append_images=frames[1:], comment=b"taken at home")
    assert b"taken at home" in out.getvalue()
    assert b"taken at home" not in prepare(out.getvalue(), "a.gif").source.read_bytes()


def test_a_profile_of_colours_goes_and_its_colours_stay(prepare):
    """ICC.1:2022, 7.2: a header of 128 bytes, of which any may hold what somebody put there, and tags of text."""
    out = io.BytesIO()
    Image.new("RGB", (30, 20), "#2f6b4a").save(out, "PNG", icc_profile=SRGB)
    image = Image.open(prepare(out.getvalue(), "a.png").source)
    assert "icc_profile" not in image.info
    assert image.getpixel((9, 9)) == (0x2F, 0x6B, 0x4A)
    # Where red and green have changed their names, what is stored as green is red (ICC.1:2022, 9.2: rXYZ, gXYZ).
    swapped = SRGB.replace(b"rXYZ", b"tmp_").replace(b"gXYZ", b"rXYZ").replace(b"tmp_", b"gXYZ")
    out = io.BytesIO()
    Image.new("RGB", (30, 20), (0, 255, 0)).save(out, "PNG", icc_profile=swapped)
    assert Image.open(prepare(out.getvalue(), "a.png").source).getpixel((9, 9)) == (255, 0, 0)
    for bad in (b"no profile", SRGB[:200]):
        out = io.BytesIO()
        Image.new("RGB", (30, 20), "#2f6b4a").save(out, "PNG", icc_profile=bad)
        assert "icc_profile" not in Image.open(prepare(out.getvalue(), "a.png").source).info


def bomb() -> bytes:
    """A small PNG file that says it has 200 megapixels."""
    out = io.BytesIO()
    Image.new("1", (20_000, 10_000)).save(out, "PNG")
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "is empty"),
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not a JPEG"),
        (b"%PDF-1.7 pretending", "not a JPEG"),
        (picture()[:300], "breaks off"),
        (picture((800, 600), colour="#123456")[:-200], "breaks off"),
        (picture(kind="PNG")[:100], "breaks off"),
        (bomb(), "200 megapixels"),
        (b"\x89PNG\r\n\x1a\n" + b"\0" * 40, "breaks off"),
    ],
)
def test_what_cant_be_read_is_refused_at_its_field_and_nothing_is_kept(world, data, words):
    answer = world.api().upload(data)
    problem = answer.json()
    assert (answer.status_code, problem["errors"][0]["pointer"]) == (422, "/file")
    assert words in problem["detail"] and "moss.jpg" in problem["detail"]
    assert Asset.objects.count() == 0


def test_a_file_over_the_limit_says_both_sizes(settings, prepare):
    settings.UPLOAD_MOST_BYTES = 1000
    with pytest.raises(UnreadableMediaError, match=r"is 5 kB; Menudo takes 1 kB"):
        prepare(b"x" * 5000, "big.jpg")


def test_the_same_picture_twice_is_one_asset_and_alt_text_is_kept(world):
    api = world.api()
    first, second = api.upload(picture()).json(), api.upload(picture(), "other-name.jpg").json()
    assert first["id"] == second["id"]
    assert api("PATCH", f"assets/{first['id']}", {"alt": "Moss on a wall"}, status=200)["alt"] == "Moss on a wall"
    assert api("PATCH", f"assets/{first['id']}", {"alt": "a\0"}, status=422)["errors"][0]["pointer"] == "/alt"


def test_pictures_are_served_only_to_those_who_may_see_the_brand(world):
    asset = world.api().upload(picture()).json()["id"]
    seen = world.api("lucia").client.get(f"/media/garden/{asset}/thumb")
    assert (seen.status_code, seen["Content-Type"]) == (200, "image/webp")
    assert "sandbox" in seen["Content-Security-Policy"]
    assert world.api("bruno").client.get(f"/media/garden/{asset}/whole").status_code == 404
    assert world.api("bruno").client.get(f"/media/bakery/{asset}/whole").status_code == 404


@pytest.mark.parametrize(
    ("query", "size"),
    [
        ("", (480, 360)),
        ("w=160", (160, 120)),
        ("turn=1&w=160", (160, 213)),
        ("crop=0,0,0.5,1&w=1600", (320, 480)),
        ("w=1600", (640, 480)),
    ],
)
def test_a_picture_is_drawn_as_it_is_shown_and_never_larger_than_it_is(world, query, size):
    asset_id = world.api().upload(picture((640, 480))).json()["id"]
    answer = world.api().client.get(f"/media/garden/{asset_id}/shown?{query}")
    assert Image.open(io.BytesIO(b"".join(answer.streaming_content))).size == size
    assert answer["Content-Security-Policy"] == "default-src 'none'; sandbox" and "immutable" in answer["Cache-Control"]


@pytest.mark.parametrize(
    "query",
    [
        "w=0",
        "w=1601",
        "w=x",
        "turn=4",
        "turn=-1",
        "turn=nan",
        "crop=1",
        "crop=0,0,0,1",
        "crop=0,0,2,1",
        "crop=a,b,c,d",
        "crop=-0.1,0,1,1",
        "crop=nan,0,1,1",
    ],
)
def test_what_cannot_be_drawn_is_not_there(world, query):
    asset_id = world.api().upload(picture()).json()["id"]
    assert world.api().client.get(f"/media/garden/{asset_id}/shown?{query}").status_code == 404


def test_drawn_pictures_are_for_those_who_may_see_the_brand(world):
    from django.test import Client

    asset_id = world.api().upload(picture()).json()["id"]
    for part in ("whole", "thumb", "shown", "frame", "sent?delivery=1"):
        assert Client().get(f"/media/garden/{asset_id}/{part}").status_code == 404
        assert world.api("bruno").client.get(f"/media/garden/{asset_id}/{part}").status_code == 404
        assert world.api("bruno").client.get(f"/media/bakery/{asset_id}/{part}").status_code == 404
