"""Work on files from outside in a process of its own, with little memory and little time: what breaks a decoder breaks nothing else.

The process knows nothing of Menudo's: no settings, no keys, no database. Its function takes and returns what JSON holds, and
reads and writes the files it is told of. Run as a program, this is that process.
"""

import json
import os
import resource
import subprocess
import sys
import tempfile
import threading
from dataclasses import asdict, dataclass
from importlib import import_module
from pathlib import Path
from typing import Any

from menudo.base.places import leave_place

_SERVER = Path(__file__).resolve().parents[2]
_CORE = _SERVER.parent / "core"
_MAX_ANSWER_BYTES = 1_000_000
_REFUSED = 3


class RefusedApartError(ValueError):
    """What the function itself refuses; the text says why, for people."""


class BrokenApartError(Exception):
    """The process ended in another way: a fault, too much memory, too much time."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What a process may use: address space and the largest file in bytes, seconds of one core. Twice as long on the wall."""

    memory: int = 2_000_000_000
    file_size: int = 600_000_000
    seconds: int = 60


# As many at once as there are cores: more would only wait for each other, and hold memory.
_slots = threading.BoundedSemaphore(os.cpu_count() or 1)


def call_apart(function: str, *arguments: Any, limits: Limits = Limits()) -> Any:
    """What `module:function` returns, called in a process of its own. Raises RefusedApartError when it raises that, BrokenApartError."""
    asked = {"function": function, "arguments": arguments, "limits": asdict(limits)}
    path = os.pathsep.join([str(_SERVER), str(_CORE)])
    leave_place()
    with _slots, tempfile.TemporaryFile() as answer:
        try:
            ran = subprocess.run(  # noqa: S603 (our own program; what it is to call, our own code says)
                [sys.executable, "-m", __name__],
                input=json.dumps(asked).encode(),
                stdout=answer,
                stderr=subprocess.DEVNULL,
                env={"PYTHONPATH": path, "PATH": os.defpath, "LC_ALL": "C.UTF-8"},
                timeout=limits.seconds * 2,
                check=False,
            )
        except subprocess.TimeoutExpired as error:
            raise BrokenApartError(f"{function} took too long") from error
        answer.seek(0)
        said = answer.read(_MAX_ANSWER_BYTES)
    if ran.returncode not in (0, _REFUSED):
        raise BrokenApartError(f"{function} ended with {ran.returncode}")
    try:
        value = json.loads(said)
    except ValueError as error:
        raise BrokenApartError(f"{function} answered nothing that can be read") from error
    if ran.returncode == _REFUSED:
        raise RefusedApartError(str(value))
    return value


def _main() -> int:
    asked = json.load(sys.stdin)
    limits = Limits(**asked["limits"])
    for what, most in (
        (resource.RLIMIT_AS, limits.memory),
        (resource.RLIMIT_FSIZE, limits.file_size),
        (resource.RLIMIT_CPU, limits.seconds),
        (resource.RLIMIT_CORE, 0),
    ):
        resource.setrlimit(what, (most, most))
    # What a decoder prints isn't part of the answer.
    answer = os.fdopen(os.dup(1), "w", encoding="utf-8")
    os.dup2(2, 1)
    module, _, name = asked["function"].partition(":")
    refused = import_module("menudo.base.apart").RefusedApartError
    try:
        value, code = getattr(import_module(module), name)(*asked["arguments"]), 0
    except refused as error:
        value, code = str(error), _REFUSED
    with answer:
        json.dump(value, answer)
    return code


if __name__ == "__main__":
    sys.exit(_main())
