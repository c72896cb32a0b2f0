"""./menudo bench fuzz: every reader of text from outside on hostile input, two at a time, for some minutes in all."""

import json
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from bench.result import Result

_SECONDS_EACH = 1
_AT_ONCE = 2


def measure() -> Result:
    """The slowest of all readers, against its bound; what breaks with anything but its own refusal doesn't hold."""
    from bench.fuzzing.targets import MOST_LENGTH, MOST_SECONDS, SECONDS, TARGETS

    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(_AT_ONCE) as pool:
        found = dict(zip(TARGETS, pool.map(lambda name: _pump(name, Path(folder)), TARGETS), strict=True))
    for line in _lines(found):
        print(line, file=sys.stderr)
    bounds = {name: SECONDS.get(name, MOST_SECONDS) for name in TARGETS}
    worst = max(found, key=lambda name: found[name]["seconds"] / bounds[name])
    broken = [name for name, one in found.items() if one["broke"] or not one["runs"]]
    ours, bound = found[worst]["seconds"], bounds[worst]
    return Result(
        "fuzz",
        ours,
        bound,
        "seconds of a core",
        ours / bound,
        f"<= {MOST_SECONDS:g} s at {MOST_LENGTH} characters",
        ours <= bound and not broken,
        f"{sum(one['runs'] for one in found.values())} texts at {len(found)} readers; the slowest: {worst}, "
        f"{found[worst]['text'][:60]!r} repeated" + (f"; broke: {', '.join(broken)}" if broken else ""),
    )


def _pump(name: str, folder: Path) -> dict[str, Any]:
    """How long it takes at most, and whether anything breaks it."""
    covered = _run(name, folder / f"{name}.covered", "--cover")
    timed = _run(name, folder / f"{name}.timed")
    broke = covered if covered["broke"] else timed
    runs = covered["runs"] + timed["runs"]
    return {**timed, "runs": runs, "broke": f"{broke['broke']} {broke['text'][:50]!r}" if broke["broke"] else ""}


def _run(name: str, file: Path, *more: str) -> dict[str, Any]:
    command = [sys.executable, "-m", "bench.fuzzing.pump", name, str(_SECONDS_EACH), str(file), *more]
    ran = subprocess.run(command, capture_output=True, text=True)
    if not file.is_file():
        return {"runs": 0, "seconds": 0.0, "text": "", "broke": ran.stderr[-300:]}
    found: dict[str, Any] = json.loads(file.read_text("utf-8"))
    return found


def _lines(found: dict[str, dict[str, Any]]) -> Iterator[str]:
    for name, one in sorted(found.items(), key=lambda pair: -pair[1]["seconds"]):
        yield f"{name:20}{one['seconds']:8.3f} s {one['runs']:6} texts  {one['text'][:50]!r} {one['broke']}"
