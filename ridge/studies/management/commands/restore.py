"""Puts a backup in the place of the database, which is kept beside it."""

from __future__ import annotations

import shutil
import sqlite3
from contextlib import closing
from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from ridge.studies.management.commands.backup import sqlite_file


class Command(BaseCommand):
    help = "Put a file that `backup` wrote in the place of the database. The server has to be stopped."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        place = sqlite_file()
        _refuse_unsound(file)
        if place.exists():
            _refuse_in_use(place)
            kept = place.with_name(f"{place.name}.before-{datetime.now():%Y-%m-%d-%H%M%S}")
            place.rename(kept)
            self.stdout.write(f"The database that was there is now {kept}.")
        for left in ("-wal", "-shm"):
            place.with_name(place.name + left).unlink(missing_ok=True)
        shutil.copyfile(file, place)
        secret = file.with_name(f"{file.name}.secret.txt")
        if secret.exists():
            beside = settings.DATA / f"{settings.MODE}-secret.txt"
            beside.unlink(missing_ok=True)
            beside.touch(mode=0o600)
            beside.write_text(secret.read_text())
        connection.close()
        call_command("migrate", verbosity=0)
        self.stdout.write(f"Restored from {file}.")


def _refuse_unsound(file: Path) -> None:
    if not file.is_file():
        raise CommandError(f"There is no file {file}.")
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as copy:
            whole = copy.execute("PRAGMA integrity_check").fetchone() == ("ok",)
            copy.execute("SELECT 1 FROM studies_study LIMIT 1")
    except sqlite3.Error:
        whole = False
    if not whole:
        raise CommandError(f"{file} is no whole copy of Ridge's database. Nothing was changed.")


def _refuse_in_use(place: Path) -> None:
    """A server holds its database open: nobody else can have it alone."""
    try:
        with closing(sqlite3.connect(place, timeout=1)) as alone:
            alone.execute("PRAGMA locking_mode=EXCLUSIVE")
            alone.execute("BEGIN EXCLUSIVE")
            alone.execute("ROLLBACK")
    except sqlite3.OperationalError:
        raise CommandError("The database is in use: stop the server first. Nothing was changed.") from None
