"""What a process that fits is made to do in tests. Without Django, since such a process has none."""

from __future__ import annotations

import os
import signal
import time
from typing import Any

from ridge.studies.analysis import worker

_fit = worker._fit


def sleep(*_: object) -> None:
    time.sleep(60)


def die(*_: object) -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def slow(*given: Any) -> Any:
    time.sleep(0.6)
    return _fit(*given)


def die_once(path: str, *given: Any) -> Any:
    """Die at the first call, which leaves a mark, and fit at the second."""
    try:
        os.close(os.open(path, os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        return _fit(*given)
    return die()
