"""Child processes of a server: they end with it, also while they start, and Ctrl+C is answered once."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from unittest import TestCase
from urllib.request import urlopen

from tests.served import ROOT, Served


def of_session(session: int) -> dict[int, int]:
    """Processes of a session with their parents, without those that have ended."""
    found = {}
    for path in Path("/proc").glob("[0-9]*/stat"):
        try:
            state, parent, _, own = path.read_text().rpartition(")")[2].split()[:4]
        except OSError:
            continue
        if int(own) == session and state != "Z":
            found[int(path.parent.name)] = int(parent)
    return found


def hold_back() -> None:
    """As ``./run`` does before it starts gunicorn."""
    signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})


class Children(TestCase):
    take_long = True

    def setUp(self) -> None:
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.served = Served(folder, "serve", RIDGE_LANE_EARLY="1")
        self.served.prepare()

    def test_killed_workers_leave_no_process_behind(self) -> None:
        self.served.start()
        self.addCleanup(self.served.stop)
        for _ in range(8):
            workers = [one for one, parent in of_session(self.served.pid).items() if parent == self.served.pid]
            os.kill(workers[0], signal.SIGKILL)
            time.sleep(0.7)  # its successor has begun to start the long lane
            with urlopen(f"http://127.0.0.1:{self.served.port}/healthz") as answer:
                self.assertEqual(answer.status, 200)
        for _ in range(600):  # a busy machine is slow, not wrong
            alive = of_session(self.served.pid)
            left = [one for one, parent in alive.items() if parent not in alive and one != self.served.pid]
            if not left:
                break
            time.sleep(0.1)
        self.assertEqual(left, [])

    def test_ctrl_c_at_any_moment_prints_no_traceback(self) -> None:
        for moment in (0.1, 0.5, 1.5, 3.0, 5.0, 8.0, 15.0):
            server = subprocess.Popen(
                [sys.executable, "-m", "gunicorn", *self.served._arguments],
                cwd=ROOT, env=self.served.environment, start_new_session=True, stderr=subprocess.PIPE, text=True, preexec_fn=hold_back,
            )  # fmt: skip
            time.sleep(moment)
            os.killpg(server.pid, signal.SIGINT)
            _, said = server.communicate()
            with self.subTest(moment):
                self.assertNotIn("Traceback", said)
                self.assertNotIn("KeyboardInterrupt", said)
