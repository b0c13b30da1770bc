"""The process that answers long requests: the whole application once more, asked in the same words."""

from __future__ import annotations

import io
import os
import resource
import sys
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.core.wsgi import get_wsgi_application

from ridge.studies.analysis.worker import fit_here

INSIDE = "ridge.long_lane"
"""Name in the environment of a request that has come here already."""
POLITE = 15
"""By how much these processes step back behind those that answer short requests."""


@dataclass(frozen=True)
class Answered:
    """``size``: bytes that the process holds afterwards."""

    status: int
    headers: list[tuple[str, str]]
    body: bytes
    size: int


def begin(memory: int) -> None:
    """Before the first request: bound the process, and step back."""
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    os.nice(POLITE)
    fit_here()


@lru_cache(maxsize=1)
def _application() -> Any:
    return get_wsgi_application()


def answer(environment: Mapping[str, Any], body: bytes) -> Answered:
    """What the application answers to a request."""
    told: list[Any] = []

    def start(status: str, headers: list[tuple[str, str]], _: Any = None) -> None:
        told.extend((int(status.split()[0]), headers))

    whole = {
        **environment,
        INSIDE: True,
        "wsgi.input": io.BytesIO(body),
        "wsgi.errors": sys.stderr,
        "CONTENT_LENGTH": str(len(body)),
    }
    response = _application()(whole, start)
    try:
        found = b"".join(response)
    finally:
        response.close()
    return Answered(told[0], told[1], found, _held())


def _held() -> int:
    """Bytes that this process has in memory."""
    with open("/proc/self/statm") as numbers:
        return int(numbers.read().split()[1]) * os.sysconf("SC_PAGE_SIZE")


def ready() -> None:
    """Nothing: asked of a process so that it starts before it is needed."""
    _application()
