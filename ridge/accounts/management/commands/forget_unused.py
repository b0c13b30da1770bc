"""Removes guests who cannot come back: their cookie ran out unused. ``./run serve`` does it once a day."""

from __future__ import annotations

from django.core.management.base import BaseCommand

from ridge.accounts.attempts import forget_failures
from ridge.accounts.guests import forget_unused
from ridge.accounts.sessions import forget_ended


class Command(BaseCommand):
    help = "Remove guests who were not there for ninety days, with all they made."

    def handle(self, *args: object, **options: object) -> None:
        count = forget_unused()
        forget_ended()
        forget_failures()
        self.stdout.write(f"{count} unused guest{'' if count == 1 else 's'} removed.")
