"""Prove the README on fresh machines: bare Debians in folders of their own, both commands in each.

    sudo python3 -m tools.fresh [--debian bookworm --debian trixie] [--who root --who user] [--test "core"]

As root the commands install what is missing by themselves; an ordinary user is told which Debian packages are missing, and
goes on when they are there. Nothing of the machine gets in but the checkout, the addresses of its Debian mirror and name
servers, and the certificates that its variables name. Needs root and debootstrap; prints the minutes, keeps nothing.
"""

import argparse
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
DEBIANS = {"bookworm": "Debian 12", "trixie": "Debian 13"}
_MINUTES_MOST = 60
_CERTIFICATES = ("PIP_CERT", "SSL_CERT_FILE", "NODE_EXTRA_CA_CERTS", "REQUESTS_CA_BUNDLE")
_NAMED = re.compile(r"apt-get install ([a-z0-9.+ -]+)\)")


def main() -> int:
    parser = argparse.ArgumentParser(prog="python3 -m tools.fresh")
    parser.add_argument("--debian", action="append", choices=DEBIANS, help="default: all")
    parser.add_argument("--who", action="append", choices=("root", "user"), help="default: both")
    parser.add_argument("--test", default="", help="what ./menudo test is given; default: nothing, so all tests")
    given = parser.parse_args()
    if os.geteuid() != 0 or not shutil.which("debootstrap"):
        print("fresh: needs root and debootstrap", file=sys.stderr)
        return 2
    fine = True
    for debian in given.debian or DEBIANS:
        for who in given.who or ("root", "user"):
            with tempfile.TemporaryDirectory(prefix="menudo-fresh-", dir="/var/tmp") as folder:
                fine = Machine(Path(folder), debian, who).try_commands(given.test.split()) and fine
    return 0 if fine else 1


class Machine:
    """A bare Debian in a folder, and a checkout in it that belongs to whoever runs the commands."""

    def __init__(self, folder: Path, debian: str, who: str) -> None:
        self.folder, self.debian, self.who = folder, debian, who
        self.env = {"PATH": "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin", "LANG": "C.UTF-8"}
        folder.chmod(0o755)
        _run_or_fail(["debootstrap", "--variant=minbase", debian, str(folder), _package_mirror()])
        # Nothing is started by being installed, as in any container.
        self._write("usr/sbin/policy-rc.d", "#!/bin/sh\nexit 101\n").chmod(0o755)
        for file in ("/etc/resolv.conf", "/etc/hosts"):
            self._write(file[1:], Path(file).read_text())
        for name in _CERTIFICATES:
            bundle = Path(os.environ.get(name, ""))
            if bundle.is_file():
                # Beside Debian's own bundle, which its package writes anew.
                self._write("srv/certificates.pem", bundle.read_text())
                self.env[name] = "/srv/certificates.pem"
        _run_or_fail([*self._enter(), "useradd", "--create-home", "--shell", "/bin/sh", "ada"])
        self._check_out()

    def try_commands(self, test: list[str]) -> bool:
        """Both commands; prints a line for each."""
        demo = self._command("./menudo demo", until="ctrl-C")
        again = self._command("./menudo demo", until="ctrl-C") if demo else False
        tests = self._command(" ".join(["./menudo test", *test]))
        return bool(demo and again and tests)

    def _command(self, command: str, until: str = "") -> bool:
        """Run it as whoever it is, and install what it asks an ordinary user for. Whether it did what it should."""
        started, asked = time.monotonic(), []
        for _ in range(4):
            code, output = self._run(command, until)
            named = _NAMED.findall(output)
            if code == 0 or not named or self.who == "root":
                break
            asked.append(named[-1])
            _run_or_fail(
                [*self._enter(), "sh", "-c", f"apt-get update -q && apt-get install -y -q {named[-1]}"], quiet=True
            )
        minutes = (time.monotonic() - started) / 60
        what = f"; asked for {' and then '.join(asked)}" if asked else ""
        print(
            f"{DEBIANS[self.debian]}, {self.who}: {command}: {'fine' if code == 0 else 'FAILED'}, {minutes:.1f} min{what}",
            flush=True,
        )
        if code:
            print(output[-6000:], flush=True)
        return code == 0

    def _run(self, command: str, until: str) -> tuple[int, str]:
        """Its exit code and what it said; with `until`, 0 as soon as it says that, and it is ended as ctrl-C ends it."""
        # The shell stays, as the first process there: it sees to those that lose their parents.
        shell = f"cd /srv/menudo && timeout --foreground -s INT {_MINUTES_MOST}m {command}; exit $?"
        switch = [] if self.who == "root" else ["setpriv", "--reuid=ada", "--regid=ada", "--init-groups"]
        env = {**self.env, "HOME": "/root" if self.who == "root" else "/home/ada"}
        process = subprocess.Popen(
            [*self._enter(), *switch, "sh", "-c", shell],
            env=env,
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            errors="replace",
        )
        lines, met = [], False
        assert process.stdout is not None
        for line in process.stdout:
            lines.append(line)
            if until and until in line and not met:
                met = True
                self._interrupt()
        code = process.wait()
        return (0 if met else code or int(bool(until))), "".join(lines)

    def _interrupt(self) -> None:
        """SIGINT to the program in the folder that was started last, as its shell would at ctrl-C."""
        for entry in Path("/proc").iterdir():
            try:
                inside = entry.name.isdigit() and (entry / "root").readlink() == self.folder
                words = (entry / "cmdline").read_bytes().split(b"\0")
            except OSError:
                continue
            if inside and b"tools.main" in words and b"python3" in words[0]:
                os.kill(int(entry.name), 2)

    def _enter(self) -> list[str]:
        """The start of a command in the folder: with processes, mounts and shared memory of its own, all gone when it ends."""
        mounts = (
            "mount -t proc proc $0/proc && mount --rbind /dev $0/dev && mount -t tmpfs shm $0/dev/shm && exec chroot $0"
        )
        return ["unshare", "--mount", "--pid", "--fork", "--kill-child", "sh", "-c", f'{mounts} "$@"', str(self.folder)]

    def _write(self, path: str, text: str) -> Path:
        file = self.folder / path
        file.parent.mkdir(parents=True, exist_ok=True)
        if file.is_symlink():
            file.unlink()
        file.write_text(text)
        return file

    def _check_out(self) -> None:
        """What is committed, without its history."""
        place = self.folder / "srv" / "menudo"
        place.mkdir(parents=True)
        with tempfile.TemporaryFile() as packed:
            subprocess.run(["git", "archive", "HEAD"], cwd=ROOT, stdout=packed, check=True)
            packed.seek(0)
            subprocess.run(["tar", "-x", "-C", str(place)], stdin=packed, check=True)
        if self.who == "user":
            _run_or_fail([*self._enter(), "chown", "-R", "ada:ada", "/srv/menudo"])


def _package_mirror() -> str:
    """Where this machine's own Debian packages come from."""
    files = [Path("/etc/apt/sources.list"), *sorted(Path("/etc/apt/sources.list.d").glob("*"))]
    text = "\n".join(file.read_text() for file in files if file.is_file())
    found = re.search(r"(?m)^(?:URIs:|deb(?: \[[^]]*\])?) +(\S+/debian/?)(?: |$)", text)
    if not found:
        raise SystemExit("fresh: this machine names no Debian mirror in its sources")
    return found.group(1)


def _run_or_fail(command: list[str], quiet: bool = True) -> None:
    ran = subprocess.run(command, stdin=subprocess.DEVNULL, capture_output=quiet, text=True)
    if ran.returncode:
        print((ran.stdout or "")[-3000:], (ran.stderr or "")[-3000:], file=sys.stderr)
        raise SystemExit(f"fresh: {command[0]} failed")


if __name__ == "__main__":
    sys.exit(main())
