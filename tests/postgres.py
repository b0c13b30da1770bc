"""A PostgreSQL of Debian's for as long as a command runs: ``python -m tests.postgres COMMAND …`` with ``RIDGE_DATABASE`` naming it."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

NAME = "ridge"


def _programs() -> Path:
    """Where Debian keeps the newest version's programs."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda path: int(path.parts[-3]))
    if not found:
        raise SystemExit("Debian's package postgresql is not there.")
    return found[-1].parent


@contextmanager
def cluster() -> Iterator[str]:
    """Its address. It listens on a socket in a folder of its own, and nothing of it is left."""
    programs = _programs()
    with tempfile.TemporaryDirectory(prefix="ridge-pg-") as folder:
        # The server refuses to run as root.
        as_user = ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []
        if as_user:
            shutil.chown(folder, "postgres")

        def run(program: str, *arguments: str) -> None:
            subprocess.run(
                [*as_user, str(programs / program), *arguments], check=True, stdout=subprocess.DEVNULL, cwd=folder
            )

        run("initdb", "-D", f"{folder}/data", "-U", NAME, "--auth=trust", "--encoding=UTF8", "--locale=C")
        options = f"-c listen_addresses='' -k {folder} -c max_connections=200"
        run("pg_ctl", "-D", f"{folder}/data", "-l", f"{folder}/log", "-o", options, "-w", "start")
        try:
            run("createdb", "-h", folder, "-U", NAME, NAME)
            yield f"postgres://{NAME}@{folder.replace('/', '%2F')}/{NAME}"
        finally:
            run("pg_ctl", "-D", f"{folder}/data", "-m", "fast", "-w", "stop")


if __name__ == "__main__":
    with cluster() as address:
        done = subprocess.run(sys.argv[1:], env={**os.environ, "RIDGE_DATABASE": address})
    raise SystemExit(done.returncode)
