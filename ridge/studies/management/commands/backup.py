"""Copy the database while it is in use, by SQLite's own backup API, and the secret that guests' cookies are signed with."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

PAGES, PAUSE = 512, 0.01
"""Pages copied at once, 2 MB, and seconds between them in which the disk is free for others."""


def sqlite_file() -> Path:
    """The file of the database. Raises CommandError where it is in no file."""
    if connection.vendor != "sqlite":
        raise CommandError("The data are in PostgreSQL: copy them with pg_dump, and put them back with pg_restore.")
    return Path(str(settings.DATABASES["default"]["NAME"]))


def copy_database(source: Path, target: Path) -> bool:
    """Copy the database as it is now, a few pages at a time. Return whether the copy is whole.

    The open read transaction keeps one state of the database in sight: without it every change that a server makes would begin
    the copy anew.
    """
    with closing(sqlite3.connect(source, isolation_level=None)) as live, closing(sqlite3.connect(target)) as copy:
        live.execute("BEGIN")
        live.execute("SELECT count(*) FROM sqlite_master").fetchone()
        live.backup(copy, pages=PAGES, sleep=PAUSE)
        live.execute("COMMIT")
        copy.execute("PRAGMA journal_mode=DELETE")
        return bool(copy.execute("PRAGMA integrity_check").fetchone() == ("ok",))


class Command(BaseCommand):
    help = "Write a consistent copy of the database to a new file, and the secret beside it."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        source = sqlite_file()
        if not source.exists():
            raise CommandError(f"There is no database at {source} yet.")
        # An empty file is what a killed backup of an earlier version left.
        if file.exists() and (file.is_dir() or file.stat().st_size):
            raise CommandError(f"{file} exists already; choose a new name.")
        if not file.parent.is_dir():
            raise CommandError(f"There is no folder {file.parent}.")
        # Under another name until it is whole, so that a backup that is killed leaves nothing that looks like one.
        part = file.with_name(f".{file.name}.part")
        part.unlink(missing_ok=True)
        try:
            sound = copy_database(source, part)
        except (sqlite3.Error, OSError) as problem:
            part.unlink(missing_ok=True)
            raise CommandError(f"{file} cannot be written: {problem}.") from None
        if not sound:
            part.unlink()
            raise CommandError("The copy failed its integrity check. Nothing was written.")
        part.replace(file)
        secret = settings.DATA / f"{settings.MODE}-secret.txt"
        if secret.exists():
            beside = file.with_name(f"{file.name}.secret.txt")
            beside.touch(mode=0o600)
            beside.write_text(secret.read_text())
        self.stdout.write(f"Copied to {file}.")
