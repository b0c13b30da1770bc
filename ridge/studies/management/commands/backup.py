"""Copies the database while it is in use, by SQLite's own backup API, and the secret that guests' cookies are signed with."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection


def sqlite_file() -> Path:
    """The file of the database. Raises CommandError where it is in no file."""
    if connection.vendor != "sqlite":
        raise CommandError("The data are in PostgreSQL: copy them with pg_dump, and put them back with pg_restore.")
    return Path(str(settings.DATABASES["default"]["NAME"]))


class Command(BaseCommand):
    help = "Write a consistent copy of the database to a new file, and the secret beside it."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        source = sqlite_file()
        if not source.exists():
            raise CommandError(f"There is no database at {source} yet.")
        if file.exists():
            raise CommandError(f"{file} exists already; choose a new name.")
        if not file.parent.is_dir():
            raise CommandError(f"There is no folder {file.parent}.")
        try:
            with closing(sqlite3.connect(source)) as live, closing(sqlite3.connect(file)) as copy:
                live.backup(copy)
                sound = copy.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        except (sqlite3.Error, OSError) as problem:
            file.unlink(missing_ok=True)
            raise CommandError(f"{file} cannot be written: {problem}.") from None
        if not sound:
            raise CommandError(f"The copy {file} failed its integrity check: do not keep it.")
        secret = settings.DATA / f"{settings.MODE}-secret.txt"
        if secret.exists():
            beside = file.with_name(f"{file.name}.secret.txt")
            beside.touch(mode=0o600)
            beside.write_text(secret.read_text())
        self.stdout.write(f"Copied to {file}.")
