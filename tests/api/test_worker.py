"""Own formulas in their own processes: what befalls one concerns nobody else."""

from __future__ import annotations

import os
import tempfile
import time
from concurrent.futures import Future, ThreadPoolExecutor
from functools import partial
from pathlib import Path
from typing import Any
from unittest.mock import patch

from django.test import SimpleTestCase

from ridge.core import Readings
from ridge.core.models import Formula
from ridge.studies.analysis import worker
from tests import tasks
from tests.api.test_api import ApiCase
from tests.cold import forget_recent

X = [1.0, 2.0, 3.0, 4.0, 5.0]
Y = [2.1, 3.9, 6.2, 7.8, 10.3]


def one_fit(text: str = "m*x + c") -> Any:
    return worker.fit_in_worker(Readings(X, Y), Formula(text), {}, {}, "y")


class Worker(SimpleTestCase):
    def test_a_formula_is_fitted_in_another_process(self) -> None:
        self.assertNotEqual(worker._processes.running().schedule(os.getpid).result(), os.getpid())
        self.assertEqual(one_fit().statistics.n, 5)

    def test_one_that_does_not_end_is_ended_and_nobody_else_is(self) -> None:
        with ThreadPoolExecutor(4) as threads, tempfile.TemporaryDirectory() as folder:
            begun = Path(folder) / "begun"
            with patch.object(worker, "_fit", partial(tasks.spin, str(begun))), patch.object(worker, "GUARD", 2.0):
                stuck = threads.submit(one_fit)
                self.seen(begun, stuck)
            others = [threads.submit(one_fit) for _ in range(3)]
            self.assertEqual([other.result().statistics.n for other in others], [5, 5, 5])
            self.assertIsInstance(stuck.exception(), worker.Interrupted)
            self.assertIn("processor time", str(stuck.exception()))
        self.assertEqual(one_fit().statistics.n, 5)

    def test_time_that_others_use_does_not_count(self) -> None:
        """A fit that waits for a busy processor is not stopped: it has used nothing."""
        with patch.object(worker, "_fit", tasks.wait_and_fit), patch.object(worker, "GUARD", 1.0):
            self.assertEqual(one_fit().statistics.n, 5)

    def test_one_that_kills_its_process_is_told_so_and_nobody_else_is(self) -> None:
        with ThreadPoolExecutor(4) as threads, tempfile.TemporaryDirectory() as folder:
            begun, goes_on = Path(folder) / "begun", Path(folder) / "goes on"
            with patch.object(worker, "_fit", partial(tasks.held, str(begun), str(goes_on))):
                other = threads.submit(one_fit)
                self.seen(begun, other)
            with patch.object(worker, "_fit", tasks.die):
                self.assertIsInstance(threads.submit(one_fit).exception(), worker.Interrupted)
            self.assertFalse(other.done())
            goes_on.touch()
            self.assertEqual(other.result().statistics.n, 5)

    def seen(self, begun: Path, work: Future[Any]) -> None:
        """Wait until the work has left its mark, being under way in another process, or has ended before it could."""
        while not (begun.exists() or work.done()):
            time.sleep(0.01)

    def test_a_process_that_dies_by_accident_is_not_noticed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            with patch.object(worker, "_fit", partial(tasks.die_once, f"{folder}/died")):
                self.assertEqual(one_fit().statistics.n, 5)
            self.assertTrue(os.path.exists(f"{folder}/died"))

    def test_the_same_formula_gives_the_same_digits_again(self) -> None:
        first, second = one_fit("a*exp(k*x)+c"), one_fit("a*exp(k*x)+c")
        self.assertEqual(first.values, second.values)


class Remembered(ApiCase):
    def test_what_failed_by_accident_is_tried_again(self) -> None:
        forget_recent()
        study = self.new()
        cells = [[str(x), str(y)] for x, y in zip(X, Y, strict=True)]
        self.change(study, 0, kind="set_cells", row=0, column=0, block=cells)
        with patch.object(worker, "_fit", tasks.die):
            state = self.change(study, 1, kind="set_fit", letter="A", family="formula", options={"text": "m*x+c"})
            self.read("/shelf")
        self.assertIn("stopped", state["analysis"]["fits"][0]["refusal"])
        self.assertEqual(state["analysis"]["failures"], ["fit A"])
        self.assertTrue(self.read(f"/studies/{study}")["analysis"]["fits"][0]["equation_text"])
        self.assertTrue(self.read("/shelf")["cards"][0]["equation"])
