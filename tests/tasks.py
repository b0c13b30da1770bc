"""What a process that fits is made to do in tests. Without Django, since such a process has none."""

from __future__ import annotations

import os
import signal
import time
from pathlib import Path
from typing import Any

from ridge.studies.analysis import worker

_fit = worker._fit


def spin(begun: str, *_: object) -> None:
    """Leave a mark and compute without end."""
    Path(begun).touch()
    while True:
        pass


def die(*_: object) -> None:
    os.kill(os.getpid(), signal.SIGKILL)


def held(begun: str, goes_on: str, *given: Any) -> Any:
    """Leave a mark, and fit once there is the other."""
    Path(begun).touch()
    while not os.path.exists(goes_on):
        time.sleep(0.01)
    return _fit(*given)


def die_once(path: str, *given: Any) -> Any:
    """Die at the first call, which leaves a mark, and fit at the second."""
    try:
        os.close(os.open(path, os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        return _fit(*given)
    return die()


def wait_and_fit(*given: Any) -> Any:
    """Wait three seconds without using the processor, as on a busy machine, and fit."""
    time.sleep(3)
    return _fit(*given)
