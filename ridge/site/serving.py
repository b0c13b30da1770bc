"""How gunicorn serves Ridge: its configuration, the same in the demo, in real use and in the benches."""

import gc
import os
import shutil
import signal
import subprocess
import sys
import tempfile
from pathlib import Path
from threading import Thread
from time import sleep
from typing import Any

# Until gunicorn has its own handlers, Ctrl+C ends it without a traceback; ./run holds the signal back until here.
signal.signal(signal.SIGINT, signal.SIG_DFL)
signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGINT})

os.environ.setdefault("PROMETHEUS_MULTIPROC_DIR", tempfile.mkdtemp(prefix="ridge-counted-"))
"""Where the processes keep what they count, so that each can tell of all."""
MANAGE = Path(__file__).resolve().parent.parent.parent / "manage.py"
A_WHILE, DAY = 600, 24 * 3600

wsgi_app = "ridge.site.wsgi:application"
workers, threads = 2, 16
"""Threads wait for the long lane, for a connection, or for their turn (``ridge.studies.one_at_a_time``); two processes keep two processors
busy."""
preload_app = True
control_socket_disable = True
timeout = 60
graceful_timeout = 30
"""Seconds that requests under way have to come to an end when the server stops or starts again."""
keepalive = 75
"""Seconds that a connection waits for the next request: whoever works on keeps theirs, and with it the process that remembers their
study."""
loglevel = "warning"


def when_ready(_: object) -> None:
    """What is loaded by now stays: it is not searched for garbage again and again (a quarter of a second each time)."""
    gc.collect()
    gc.freeze()
    Thread(target=_every_day, daemon=True).start()


def _every_day() -> None:
    """Guests who cannot come back are removed once a day, by a process of its own; first when the start is over."""
    sleep(A_WHILE)
    while True:
        subprocess.run([sys.executable, MANAGE, "forget_unused", "--no-color"], check=False, stdout=subprocess.DEVNULL)
        sleep(DAY)


def child_exit(_: object, worker: Any) -> None:
    """What a process counted stays in the sums when it ends."""
    from prometheus_client.multiprocess import mark_process_dead

    mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]


def on_exit(_: object) -> None:
    shutil.rmtree(os.environ["PROMETHEUS_MULTIPROC_DIR"], ignore_errors=True)


def worker_int(_: object) -> None:
    """End once: Ctrl+C reaches a worker from the terminal and again from the server, which would interrupt its end with a traceback."""
    for one in (signal.SIGINT, signal.SIGQUIT):
        signal.signal(one, signal.SIG_IGN)


def post_worker_init(_: object) -> None:
    """Start the process of the long lane beside the first requests, which do not wait for it; tests that ask for nothing long save the
    seconds."""
    from ridge.site.lane.lane import get_ready

    if os.environ.get("RIDGE_LANE_EARLY") != "0":
        Thread(target=get_ready, daemon=True).start()
