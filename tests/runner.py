"""Django's test runner with a closing line that counts what really ran."""

from __future__ import annotations

import unittest
from typing import Any

from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Prints ``N passed, N failed`` (and skipped) after everything else."""

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        self._outcome: unittest.TestResult | None = None
        failures = super().run_tests(*args, **kwargs)
        result = self._outcome
        ran = result.testsRun if result else 0
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses) if result else 0
        skipped = len(result.skipped) if result else 0
        text = f"{max(0, ran - failed - skipped)} passed, {failed} failed"
        print(text + (f", {skipped} skipped" if skipped else ""), flush=True)
        return failures or (1 if ran == 0 else 0)

    def run_suite(self, suite: unittest.TestSuite, **kwargs: Any) -> Any:
        self._outcome = super().run_suite(suite, **kwargs)
        return self._outcome
