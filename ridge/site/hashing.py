"""Password hashing that holds up nobody else."""

from __future__ import annotations

from threading import BoundedSemaphore

from django.contrib.auth.hashers import Argon2PasswordHasher

from ridge.studies.one_at_a_time import waiting

AT_ONCE = 2
"""Hashes computed at once in one process: each takes a processor and 100 MB."""
_free = BoundedSemaphore(AT_ONCE)


class PatientHasher(Argon2PasswordHasher):
    """Argon2, computed while other requests of the process have their turn."""

    def encode(self, password: str, salt: str) -> str:
        with waiting(), _free:
            return str(super().encode(password, salt))

    def verify(self, password: str, encoded: str) -> bool:
        with waiting(), _free:
            return bool(super().verify(password, encoded))
