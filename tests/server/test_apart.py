"""What decodes files from outside runs apart: with little memory and time, without keys, and what breaks it breaks nothing else."""

import io

import pytest
from PIL import Image

from menudo.base.apart import BrokenApartError, Limits, RefusedApartError, call_apart
from menudo.library.media_preparation import UnreadableMediaError, prepare_media
from tests.server.conftest import picture


def test_what_a_function_returns_comes_back(monkeypatch):
    monkeypatch.setenv("MENUDO_SECRET_KEY", "secret")
    assert call_apart("math:gcd", 12, 18) == 6
    assert call_apart("os:getenv", "MENUDO_SECRET_KEY") is None


@pytest.mark.parametrize(
    ("function", "argument"),
    [
        ("os:_exit", 0),
        ("builtins:eval", "__import__('os').abort()"),
        ("builtins:eval", "len(bytes(10**9))"),
        ("builtins:eval", "'a' * 2_000_000"),
        (
            "builtins:eval",
            "open('/proc/self/fd/2', 'wb') and __import__('tempfile').TemporaryFile().write(b'a' * 2_000_000)",
        ),
        ("time:sleep", 60),
        ("builtins:eval", "all(True for _ in iter(int, 1))"),
    ],
)
def test_what_breaks_is_told_whatever_breaks_it(function, argument):
    with pytest.raises(BrokenApartError):
        call_apart(function, argument, limits=Limits(memory=500_000_000, file_size=1_000_000, seconds=1))


@pytest.mark.parametrize("kind", ["EPS", "TIFF", "BMP", "PPM", "ICO"])
def test_only_the_formats_that_are_taken_are_decoded_of_a_page_too(tmp_path, kind):
    """An EPS is a program, which Pillow would have PostScript run."""
    source = tmp_path / "picture"
    Image.new("RGB", (200, 200), "#2f6b4a").save(source, kind)
    with pytest.raises(RefusedApartError, match="can't be read"):
        call_apart("menudo.feeds.thumbnails:make_thumbnail", str(source), str(tmp_path / "thumb"))
    assert call_apart("menudo.brandsheet.logo_colours:main_colours", str(source)) == []
    with pytest.raises(UnreadableMediaError, match="is not a JPEG"):
        prepare_media(source, "picture", tmp_path)


def test_a_picture_that_breaks_its_decoder_is_refused_in_words(tmp_path, monkeypatch):
    monkeypatch.setattr("menudo.library.media_preparation.PICTURE_LIMITS", Limits(memory=1))
    with pytest.raises(UnreadableMediaError, match="breaks off or is damaged"):
        prepare_media(picture(), "moss.jpg", tmp_path)


def test_a_small_copy_of_an_articles_picture_says_nothing_of_where_it_was_taken(tmp_path):
    source, out, exif = tmp_path / "picture", tmp_path / "thumb", Image.Exif()
    exif[0x010E] = "taken at home"
    source.write_bytes(picture((400, 300), exif=exif))
    call_apart("menudo.feeds.thumbnails:make_thumbnail", str(source), str(out))
    image = Image.open(io.BytesIO(out.read_bytes()))
    assert (image.size, b"taken at home" in out.read_bytes()) == ((360, 240), False)
