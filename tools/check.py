"""./menudo check: everything that can be said of the code without running the product."""

import os
import subprocess
import tempfile
from pathlib import Path

from tools import setup

SCHEMA = setup.ROOT / "server" / "openapi.json"
CLIENT = setup.WEB / "src" / "api" / "schema.gen.d.ts"


def run(arguments: list[str]) -> int:
    """With --write: formatting, the API schema and the client are brought up to date instead of being compared."""
    write = "--write" in arguments
    setup.install_python(dev=True)
    setup.install_web(build=False)
    bin_folder = setup.VENV / "bin"
    # makemigrations --check reads models only: no database is asked.
    env = {
        **os.environ,
        "MENUDO_DEMO": "1",
        "MENUDO_DB_POOL": "0",
        "PYTHONWARNINGS": "ignore",
        "PYTHONPATH": os.pathsep.join(str(setup.ROOT / p) for p in ("core", "server", "standin", ".")),
        "DJANGO_SETTINGS_MODULE": "menudo.settings",
    }
    steps: list[tuple[str, list[str], Path]] = [
        ("ruff", [str(bin_folder / "ruff"), "check", *(["--fix"] if write else []), "."], setup.ROOT),
        ("format", [str(bin_folder / "ruff"), "format", *([] if write else ["--check"]), "."], setup.ROOT),
        ("mypy", [str(bin_folder / "mypy")], setup.ROOT),
        ("imports", [str(bin_folder / "lint-imports"), "--no-cache"], setup.ROOT),
        (
            "migrations",
            [str(setup.PYTHON), "server/manage.py", "makemigrations", "--check", "--dry-run", "-v", "1"],
            setup.ROOT,
        ),
        ("biome", [str(_biome()), "check", *(["--write"] if write else []), "src"], setup.WEB),
    ]
    failed = [] if _schema(env, write) else ["API schema"]
    for name, command, where in steps:
        setup.print_step(name)
        if subprocess.run(command, cwd=where, env=env).returncode:
            failed.append(name)
    setup.print_step("tsc")
    if subprocess.run(["npx", "--no-install", "tsc", "--noEmit"], cwd=setup.WEB, env=setup.install_node()).returncode:
        failed.append("tsc")
    setup.print_step(f"check failed: {', '.join(failed)}" if failed else "check: all well")
    return 1 if failed else 0


def _biome() -> Path:
    """The linter's program itself: its wrapper package names platforms that not every registry has."""
    found = sorted((setup.WEB / "node_modules" / "@biomejs").glob("cli-*/biome"))
    if not found:
        raise setup.SetupError("biome is not installed for this platform")
    return found[0]


def _schema(env: dict[str, str], write: bool) -> bool:
    """server/openapi.json is what the code says, and the generated client is what the schema says."""
    setup.print_step("API schema")
    with tempfile.TemporaryDirectory() as folder:
        schema, client = Path(folder) / "openapi.json", Path(folder) / "schema.gen.d.ts"
        command = [
            str(setup.PYTHON),
            "server/manage.py",
            "export_openapi_schema",
            "--api",
            "menudo.api.api",
            "--sorted",
            "--indent",
            "1",
            "--output",
            str(schema),
        ]
        if subprocess.run(command, cwd=setup.ROOT, env=env).returncode:
            return False
        schema.write_text(schema.read_text().rstrip() + "\n")
        if subprocess.run(
            ["npx", "--no-install", "openapi-typescript", str(schema), "-o", str(client)],
            cwd=setup.WEB,
            env=setup.install_node(),
            stdout=subprocess.DEVNULL,
        ).returncode:
            return False
        fine = True
        for made, kept in ((schema, SCHEMA), (client, CLIENT)):
            if write:
                kept.parent.mkdir(parents=True, exist_ok=True)
                kept.write_text(made.read_text())
            elif not kept.is_file() or kept.read_text() != made.read_text():
                setup.print_step(f"{kept.relative_to(setup.ROOT)} is not what the code says: ./menudo check --write")
                fine = False
        return fine
