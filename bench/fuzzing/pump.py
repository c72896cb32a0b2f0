"""python -m bench.fuzzing.pump TARGET SECONDS FILE [--cover]: one reader and scraps of text, which Atheris makes others of.

With --cover, the reader's code is instrumented, so that Atheris finds what runs through it in another way: for what breaks it. Without,
for how long it takes: each scrap is repeated to the length that is taken (instrumented code is some four times slower). FILE holds what
was found, after every text.
"""

import json
import os
import sys
import tempfile
import time
from contextlib import nullcontext
from pathlib import Path
from typing import Any

import atheris
import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
os.environ["MENUDO_DEMO"] = "1"
COVER = "--cover" in sys.argv
with atheris.instrument_imports(include=["menudo_core", "menudo"]) if COVER else nullcontext():
    django.setup()
    from bench.fuzzing.targets import LENGTHS, MOST_LENGTH, TARGETS
    from bench.fuzzing.units import PREFIXES, UNITS

# A machine that is starved by its neighbours makes one run slow; what is slow is slow each time.
_AGAIN = 4
_COVERED_LENGTH = 400


def main() -> None:
    name, seconds, file = sys.argv[1], int(sys.argv[2]), Path(sys.argv[3])
    read = TARGETS[name]
    most = _COVERED_LENGTH if COVER else LENGTHS.get(name, MOST_LENGTH)
    found: dict[str, Any] = {"runs": 0, "seconds": 0.0, "text": "", "broke": ""}

    def run(text: str) -> float:
        begun = time.process_time()
        try:
            read(text)
        except Exception as error:
            # What it refuses, it refuses by a ValueError, or by an error of ours.
            if not isinstance(error, ValueError) and not type(error).__module__.startswith("menudo"):
                raise
        return time.process_time() - begun

    def one(data: bytes) -> None:
        prefix = PREFIXES[data[0] % len(PREFIXES)] if data else ""
        unit = data[1:].decode("utf-8", "ignore") or "a"
        text = (prefix + unit * (most // len(unit) + 1))[:most]
        found["runs"] += 1
        try:
            took = run(text)
            if took > found["seconds"]:
                took = min(took, *(run(text) for _ in range(_AGAIN)))
        except Exception as error:
            _keep(found | {"broke": f"{type(error).__name__}: {error}"[:200], "text": prefix + unit}, file)
            raise
        if took > found["seconds"]:
            found.update(seconds=took, text=prefix + unit)
        _keep(found, file)

    with tempfile.TemporaryDirectory() as corpus:
        for number, unit in enumerate(UNITS):
            (Path(corpus) / str(number)).write_bytes(b"\0" + unit.encode())
        options = [f"-max_total_time={seconds}", "-max_len=64", "-timeout=60", "-rss_limit_mb=4096", "-verbosity=0"]
        atheris.Setup([sys.argv[0], *options, corpus], one)
        atheris.Fuzz()


def _keep(found: dict[str, Any], file: Path) -> None:
    beside = file.with_suffix(".new")
    beside.write_text(json.dumps(found), "utf-8")
    beside.replace(file)


if __name__ == "__main__":
    main()
