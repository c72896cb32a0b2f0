"""./menudo build: everything that ./menudo serve needs, made before it is started; or a release to be unpacked elsewhere."""

import argparse
import gzip
import io
import shutil
import subprocess
import tarfile
import tomllib
from pathlib import Path

from tools import setup

# What a release holds: the programs, what starts them, and what tells how. The web application is in it built.
_PARTS = (
    "menudo", "tools", "core", "server", "deploy", "docs", "web/dist", "requirements.txt", "pyproject.toml", "README.md", "CHANGELOG.md",
    "SECURITY.md",
)  # fmt: skip # a table: a row to a line
_LEFT_OUT = ("__pycache__", ".pyc", "screenshots", ".mypy_cache")


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo build")
    parser.add_argument("--release", type=Path, help="write a release here: FILE.tar.gz")
    given = parser.parse_args(arguments)
    setup.install_debian("ca-certificates")
    setup.install_python()
    # A release has the web application built already, and nothing to build it from.
    if (setup.WEB / "package.json").is_file():
        setup.install_web()
    if given.release:
        write_release(given.release)
    setup.print_step("built" + (f": {given.release}" if given.release else ": ./menudo migrate, then ./menudo serve"))
    return 0


def write_release(file: Path) -> None:
    """A tar archive with one folder, menudo-VERSION; the same for the same sources, whoever makes it and when."""
    file.parent.mkdir(parents=True, exist_ok=True)
    folder = f"menudo-{_version()}"
    with (
        file.open("wb") as raw,
        gzip.GzipFile("", "wb", mtime=0, fileobj=raw) as packed,
        tarfile.open(fileobj=packed, mode="w") as tar,
    ):
        for part in _PARTS:
            tar.add(setup.ROOT / part, f"{folder}/{part}", filter=_plain)
        about = f"{_version()} {_commit()}\n".encode()
        info = tarfile.TarInfo(f"{folder}/RELEASE")
        info.size = len(about)
        tar.addfile(info, io.BytesIO(about))


def _version() -> str:
    return str(tomllib.loads((setup.ROOT / "pyproject.toml").read_text())["project"]["version"])


def _commit() -> str:
    """Of this checkout; empty where there is none."""
    if not shutil.which("git"):
        return ""
    return subprocess.run(["git", "rev-parse", "HEAD"], cwd=setup.ROOT, capture_output=True, text=True).stdout.strip()


def _plain(info: tarfile.TarInfo) -> tarfile.TarInfo | None:
    if any(part in info.name for part in _LEFT_OUT):
        return None
    info.uid = info.gid = info.mtime = 0
    info.uname = info.gname = ""
    info.mode = 0o755 if info.isdir() or info.mode & 0o100 else 0o644
    return info
