"""One request of a process is worked on at a time, in the order in which they come.

Python works on one thing at a time anyway. Sixteen threads that take turns within their requests finish later than one after the other, all of
them, and whoever holds the database's lock is held up by all others: measured with 70 students on a machine that was not quiet, 95 % of the
answers came within 0.1 to 0.3 s so, and within 0.3 to 16 s without.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock, local

_turn = Lock()
_here = local()


@contextmanager
def turn() -> Iterator[None]:
    """While one's turn lasts, nothing else is worked on."""
    with _turn:
        _here.has_it = True
        try:
            yield
        finally:
            _here.has_it = False


@contextmanager
def waiting() -> Iterator[None]:
    """While something outside this process is waited for, others have their turn."""
    if not getattr(_here, "has_it", False):
        yield
        return
    _turn.release()
    _here.has_it = False
    try:
        yield
    finally:
        _turn.acquire()
        _here.has_it = True
