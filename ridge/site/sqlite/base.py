"""Where Django looks for the backend."""

from __future__ import annotations

from django.db.backends.sqlite3 import base
from django.db.utils import OperationalError

from ridge.studies.one_at_a_time import waiting

BRIEFLY = 0.25
"""Seconds, far more than a change takes that is made by another process."""


class DatabaseWrapper(base.DatabaseWrapper):
    def _start_transaction_under_autocommit(self) -> None:
        longest = float(self.settings_dict["OPTIONS"]["timeout"])
        self._wait_at_most(min(BRIEFLY, longest))
        try:
            super()._start_transaction_under_autocommit()  # type: ignore[misc]  # not in the stubs
        except OperationalError:
            self._wait_at_most(longest)
            with waiting():
                super()._start_transaction_under_autocommit()  # type: ignore[misc]
        else:
            self._wait_at_most(longest)

    def _wait_at_most(self, seconds: float) -> None:
        with self.cursor() as cursor:
            cursor.execute(f"PRAGMA busy_timeout = {round(1000 * seconds)}")
