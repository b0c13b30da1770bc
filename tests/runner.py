"""Django's test runner with the slowest tests named and a closing line that counts what really ran; several processes share the tests."""

from __future__ import annotations

import os
import time
import unittest
from collections.abc import Iterable, Iterator
from itertools import groupby
from pathlib import Path
from typing import Any

from django.test.runner import DiscoverRunner

SLOWEST = 12

SHARED = "RIDGE_TESTS_SHARED"
"""Names a folder in which the processes of one run note which classes of tests each of them takes: whoever is free takes the next."""


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


class SharedSuite(unittest.TestSuite):
    """The tests of those classes that no other process has taken before, in the order of the labels, those that ``take_long`` first: else
    one process would be left with them at the end."""

    _cleanup = False

    def __init__(self, tests: Iterable[unittest.TestCase | unittest.TestSuite], folder: Path) -> None:
        super().__init__(sorted(tests, key=lambda test: not getattr(test, "take_long", False)))
        self._folder = folder
        self._running = False

    def run(self, result: unittest.TestResult, debug: bool = False) -> unittest.TestResult:
        self._running = True
        return super().run(result, debug)

    def __iter__(self) -> Iterator[Any]:
        for kind, tests in groupby(self._tests, key=type):
            if not self._running or self._taken(kind):
                yield from tests

    def _taken(self, kind: type) -> bool:
        try:
            (self._folder / f"{kind.__module__}.{kind.__qualname__}").touch(exist_ok=False)
        except FileExistsError:
            return False
        return True


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

    def build_suite(self, *args: Any, **kwargs: Any) -> unittest.TestSuite:
        suite = super().build_suite(*args, **kwargs)
        folder = os.environ.get(SHARED)
        return SharedSuite(suite, Path(folder)) if folder else suite

    def run_suite(self, suite: unittest.TestSuite, **kwargs: Any) -> Any:
        self._outcome = super().run_suite(suite, **kwargs)
        return self._outcome
