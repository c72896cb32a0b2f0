"""The API's description and the web's client, made from the code."""

import subprocess
import tempfile
from pathlib import Path

from tools import setup

SCHEMA = setup.ROOT / "server" / "openapi.json"
CLIENT = setup.WEB / "src" / "api" / "schema.gen.d.ts"


def is_current(env: dict[str, str], *, write: bool) -> bool:
    """server/openapi.json is what the code says, and the generated client is what the schema says. `write` makes them so."""
    setup.print_step("API schema")
    with tempfile.TemporaryDirectory() as folder:
        schema, client = Path(folder) / SCHEMA.name, Path(folder) / CLIENT.name
        export = ["export_openapi_schema", "--api", "menudo.api.api", "--sorted", "--output", str(schema)]
        format_both = ["format", f"--config-path={setup.WEB / 'biome.generated.json'}", "--write", folder]
        commands: list[list[str]] = [
            [str(setup.PYTHON), "server/manage.py", *export],
            ["npx", "--no-install", "--prefix", str(setup.WEB), "openapi-typescript", str(schema), "-o", str(client)],
            [str(setup.biome()), *format_both],
        ]
        env = {**env, "PATH": setup.install_node()["PATH"]}
        for command in commands:
            if subprocess.run(command, cwd=setup.ROOT, env=env, stdout=subprocess.DEVNULL).returncode:
                return False
        return all([_settle(schema, SCHEMA, write), _settle(client, CLIENT, write)])


def _settle(made: Path, kept: Path, write: bool) -> bool:
    """Whether what is kept is what was made; with `write` it is put in its place."""
    if write:
        kept.write_text(made.read_text())
    elif not kept.is_file() or kept.read_text() != made.read_text():
        setup.print_step(f"{kept.relative_to(setup.ROOT)} is not what the code says: ./menudo check --write")
        return False
    return True
