"""python -m bench [NAME] [--json]; called by ./menudo bench."""

import argparse
import json
import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from bench.result import Result

NAMES = ("window", "slots", "rotas", "check", "deliveries", "batch", "streams", "keystrokes", "month", "lag", "chaos")
# Only when they are asked for: one needs packages of its own, the others load an office of 200,000 deliveries.
BY_NAME = ("fuzz", "api", "wide", "crowd")


def main() -> int:
    parser = argparse.ArgumentParser(prog="./menudo bench")
    parser.add_argument("name", nargs="?", choices=(*NAMES, *BY_NAME))
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--long", action="store_true", help="chaos alone: on both wires, with long uploads")
    given = parser.parse_args()
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")
    os.environ["MENUDO_DEMO"] = "1"
    os.environ["MENUDO_LOG_LEVEL"] = "WARNING"
    if given.long and given.name != "chaos":
        parser.error("--long is for chaos")
    results = [_run_benchmark(given.name, given.long)] if given.name else [_run_in_process(name) for name in NAMES]
    if given.json:
        found = [r.as_dict() for r in results]
        print(json.dumps(found[0] if given.name else found, indent=1))
    else:
        print(f"{'name':12}{'ours':>12}{'reference':>12}  {'unit':18}{'ratio':>8}  {'bound':24}holds")
        for r in results:
            print(
                f"{r.name:12}{r.ours:12.4g}{r.reference:12.4g}  {r.unit:18}{r.ratio:8.3f}  {r.bound:24}{'yes' if r.holds else 'NO'}"
            )
            print(f"{'':12}{r.ran}")
    return 0 if all(r.holds for r in results) else 1


def _run_in_process(name: str) -> Result:
    """In a process of its own: Django knows one database for as long as a process lives."""
    print(f"bench: {name}", file=sys.stderr, flush=True)
    ran = subprocess.run([sys.executable, "-m", "bench", name, "--json"], stdout=subprocess.PIPE, text=True)
    try:
        # What is loaded first says so.
        return Result(**json.loads(ran.stdout[ran.stdout.find("{") :]))
    except (ValueError, TypeError):
        return Result(
            name,
            0,
            0,
            "",
            0,
            "to be measured",
            False,
            f"it broke off with code {ran.returncode}; what it said stands above",
        )


def _run_benchmark(name: str, long: bool = False) -> Result:
    """Each benchmark with a database of its own, when it needs one."""
    if name == "rotas":
        from bench.rotas import measure as laid_out

        return laid_out()
    if name == "fuzz":
        import django

        django.setup()
        from bench.fuzz import measure as pumped

        return pumped()
    if name == "slots":
        from bench.slots import measure

        return measure()
    from bench.place import temporary_stack

    with temporary_stack(name) as here:
        import django

        django.setup()
        module = __import__(f"bench.{name}", fromlist=["measure"])
        measure_there: Callable[..., Result] = module.measure
        return measure_there(here, long) if long else measure_there(here)


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
    sys.exit(main())
