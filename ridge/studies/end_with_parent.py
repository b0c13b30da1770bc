"""Imported first by the server that forks the child processes: it ends as soon as its parent has ended, also while it still imports.

Python's own check comes only after all imports, some seconds of processor time, so killed servers would leave a queue of them behind.
"""

from __future__ import annotations

import os
from threading import Thread
from time import sleep

LOOK = 0.5
"""Seconds between two looks."""


def _watch(parent: int) -> None:
    while os.getppid() == parent:
        sleep(LOOK)
    os._exit(0)


Thread(target=_watch, args=(os.getppid(),), daemon=True).start()
