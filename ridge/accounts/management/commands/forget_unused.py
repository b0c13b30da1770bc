"""Removes guests who cannot come back: their cookie ran out unused. ``./run serve`` does it once a day."""

from __future__ import annotations

from django.core.management.base import BaseCommand

from ridge.accounts.guests import forget_unused


class Command(BaseCommand):
    help = "Remove guests who were not there for ninety days, with all they made."

    def handle(self, *args: object, **options: object) -> None:
        count = forget_unused()
        self.stdout.write(f"{count} unused guest{'' if count == 1 else 's'} removed.")
