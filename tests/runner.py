"""Django's test runner with the slowest tests named and a closing line that counts what really ran."""

from __future__ import annotations

import time
import unittest
from typing import Any

from django.test.runner import DiscoverRunner

SLOWEST = 12


class TimedResult(unittest.TextTestResult):
    """Notes how long each test took, what its class set up included."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.seconds: dict[str, float] = {}
        self._since = time.perf_counter()

    def stopTest(self, test: unittest.TestCase) -> None:
        super().stopTest(test)
        now = time.perf_counter()
        self.seconds[test.id()] = now - self._since
        self._since = now


class CountingRunner(DiscoverRunner):
    """Prints the slowest tests and ``N passed, N failed`` (and skipped) after everything else."""

    def get_resultclass(self) -> Any:
        return super().get_resultclass() or TimedResult

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        self._outcome: unittest.TestResult | None = None
        failures = super().run_tests(*args, **kwargs)
        result = self._outcome
        if isinstance(result, TimedResult):
            slowest = sorted(result.seconds.items(), key=lambda one: -one[1])[:SLOWEST]
            print("slowest: " + "; ".join(f"{name} {seconds:.0f} s" for name, seconds in slowest))
        ran = result.testsRun if result else 0
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses) if result else 0
        skipped = len(result.skipped) if result else 0
        text = f"{max(0, ran - failed - skipped)} passed, {failed} failed"
        print(text + (f", {skipped} skipped" if skipped else ""), flush=True)
        return failures or (1 if ran == 0 else 0)

    def run_suite(self, suite: unittest.TestSuite, **kwargs: Any) -> Any:
        self._outcome = super().run_suite(suite, **kwargs)
        return self._outcome
