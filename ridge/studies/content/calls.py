"""Which fits a formula calls by their letters, as in ``A(x) - B(x)``."""

from __future__ import annotations

from ridge.core.formula.parse import called_curves
from ridge.studies.content.state import StudyState


def curves_called(state: StudyState, letter: str, text: str) -> list[str]:
    """Letters of the other fits that a formula of this letter calls as functions."""
    return list(called_curves(text, [fit.letter for fit in state.fits if fit.letter != letter]))


def calls_itself(state: StudyState, letter: str, curves: list[str]) -> str:
    """The letter of a called fit that calls this one in turn, through others or not; empty if none does."""
    named = {fit.letter: fit for fit in state.fits}
    for called in curves:
        waiting, seen = [called], set()
        while waiting:
            here = waiting.pop()
            if here == letter:
                return called
            if here in named and here not in seen:
                seen.add(here)
                waiting += named[here].options.get("curves") or ()
    return ""
