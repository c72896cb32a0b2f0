"""Bring media in from a ZIP: its folders become folders, a text file beside a picture its caption."""

import stat
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path, PurePosixPath
from typing import IO

from django.conf import settings

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.library import files
from menudo.library.actions.add_asset import add_asset
from menudo.library.models import Asset, Folder
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.media.shapes import format_bytes

_SKIPPED = ("__MACOSX/", ".DS_Store", "Thumbs.db")
_MOST_CAPTION, _PIECE = 20_000, 1_000_000
# Of the other ways to pack, a few bytes may make a hundred megabytes in one step.
_PACKINGS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)


@dataclass
class ImportedMedia:
    """What came of a ZIP: what was added, and what was left with its reason, by its name in the ZIP."""

    added: list[Asset] = field(default_factory=list)
    left: list[tuple[str, str]] = field(default_factory=list)


def import_zip(context: BrandContext, source: Path, name: str) -> ImportedMedia:
    """Add every picture and video in the ZIP; what can't be taken is left, with its reason. Raises InvalidError."""
    context.require(Capability.WRITE)
    try:
        archive = zipfile.ZipFile(source)
    except (zipfile.BadZipFile, OSError, ValueError) as error:
        raise InvalidError.at("/file", say("zip.unreadable", name=name)) from error
    with archive:
        entries = list(_checked_entries(archive, name))
        out = ImportedMedia()
        texts = [entry for entry in entries if entry.filename.lower().endswith(".txt")]
        # Each once, however many pictures have its name.
        captions = {_stem(entry.filename): _read_caption(archive, entry, out) for entry in texts}
        for entry in entries:
            if entry in texts:
                continue
            with _left_out(entry, out):
                path = _path_of(entry)
                with files.workspace() as workspace:
                    file = _unpack(archive, entry, workspace)
                    folder = _folder_for(context, str(path.parent)) if str(path.parent) != "." else None
                    caption = captions.get(_stem(entry.filename), "")
                    out.added.append(add_asset(context, file, path.name, folder=folder, caption=caption))
    if not out.added and not out.left:
        raise InvalidError.at("/file", say("zip.empty", name=name))
    if not out.added:
        raise InvalidError.at("/file", say("zip.nothing", name=name, reason=out.left[0][1]))
    return out


def _checked_entries(archive: zipfile.ZipFile, name: str) -> Iterator[zipfile.ZipInfo]:
    """Its files. Raises InvalidError when they are too many or too large unpacked: what a ZIP says of itself is checked again as it is read."""
    found = [e for e in archive.infolist() if not e.is_dir() and not any(s in e.filename for s in _SKIPPED)]
    # What points elsewhere is no file.
    found = [e for e in found if not stat.S_ISLNK(e.external_attr >> 16)]
    if len(found) > settings.ZIP_MOST_FILES:
        raise InvalidError.at("/file", say("zip.many", name=name, count=len(found), most=settings.ZIP_MOST_FILES))
    if (size := sum(e.file_size for e in found)) > settings.ZIP_MOST_BYTES:
        most = format_bytes(settings.ZIP_MOST_BYTES)
        raise InvalidError.at("/file", say("zip.large", name=name, size=format_bytes(size), most=most))
    yield from found


@contextmanager
def _left_out(entry: zipfile.ZipInfo, out: ImportedMedia) -> Iterator[None]:
    """What can't be taken is left, with its reason."""
    try:
        yield
    except InvalidError as error:
        out.left.append((entry.filename, error.words))
    except (zipfile.BadZipFile, RuntimeError, NotImplementedError, OSError, EOFError, ValueError):
        name = PurePosixPath(entry.filename).name
        out.left.append((entry.filename, f"“{name}” can't be unpacked: it is damaged or has a password."))


def _path_of(entry: zipfile.ZipInfo) -> PurePosixPath:
    """Where it stands in the ZIP. Raises InvalidError when that is outside of it."""
    path = PurePosixPath(entry.filename.replace("\\", "/"))
    if path.is_absolute() or ".." in path.parts:
        raise InvalidError.at("/file", say("zip.outside", name=path.name))
    return path


def _open(archive: zipfile.ZipFile, entry: zipfile.ZipInfo) -> IO[bytes]:
    if entry.compress_type not in _PACKINGS:
        raise InvalidError.at("/file", say("zip.packing", name=PurePosixPath(entry.filename).name))
    return archive.open(entry)


def _unpack(archive: zipfile.ZipFile, entry: zipfile.ZipInfo, workspace: Path) -> Path:
    """The entry as a file. Raises ValueError when it is larger than it says."""
    left, out = min(entry.file_size, settings.UPLOAD_MOST_VIDEO_BYTES), workspace / "unpacked"
    with _open(archive, entry) as file, out.open("wb") as target:
        while piece := file.read(_PIECE):
            left -= len(piece)
            if left < 0:
                raise ValueError("larger than it says")
            target.write(piece)
    return out


def _read_caption(archive: zipfile.ZipFile, entry: zipfile.ZipInfo, out: ImportedMedia) -> str:
    with _left_out(entry, out), _open(archive, entry) as file:
        return file.read(_MOST_CAPTION).decode("utf-8", "replace").strip().replace("\0", "")
    return ""


def _stem(name: str) -> str:
    return name.rsplit(".", 1)[0]


def _folder_for(context: BrandContext, path: str) -> Folder:
    name = " ".join("".join(c for c in path if c.isprintable()).split())[-120:] or "From a ZIP"
    return Folder.objects.get_or_create(brand=context.brand, name=name)[0]
