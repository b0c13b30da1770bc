"""A process that has computed nothing yet."""

from __future__ import annotations

from ridge.studies.analysis import fits
from ridge.studies.api import shelf
from ridge.studies.content import readings, store
from ridge.studies.words import analyse as analysis


def forget_recent() -> None:
    """Forget all that is remembered between requests."""
    for memory in (
        analysis._recent,
        fits._recent,
        shelf._recent,
        store._recent,
    ):
        memory.forget()
    readings._recent.clear()
