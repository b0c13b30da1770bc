"""Loads the Sallow Quay field week for the demo's visitors, once."""

from __future__ import annotations

from django.core.management.base import BaseCommand

from ridge.accounts.guests import DEMO_USER
from ridge.accounts.models import User
from ridge.studies.content.samples import SAMPLES, picture_in
from ridge.studies.content.store import create_study


class Command(BaseCommand):
    help = "Load the demo data unless it is there already."

    def handle(self, *args: object, **options: object) -> None:
        user, made = User.objects.get_or_create(username=DEMO_USER, defaults={"is_guest": True})
        if not made:
            return
        user.set_unusable_password()
        user.save()
        for sample in reversed(SAMPLES):
            state = sample.build(sample)
            create_study(user, state, picture=picture_in(state))
        self.stdout.write(
            f"Loaded {len(SAMPLES)} studies of the Sallow Quay field week. All their numbers are invented."
        )
