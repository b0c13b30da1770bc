"""The Python script of a study: its fits, and the values of y that were asked of them and kept."""

from __future__ import annotations

from ridge.exchange.cells import NotANumber
from ridge.exchange.lists import read_list
from ridge.exchange.script import ScriptedFit, write_script
from ridge.studies.fit_words import name_of
from ridge.studies.fits import fit_all
from ridge.studies.readings import read_table
from ridge.studies.state import StudyState


def script_of(state: StudyState) -> str:
    """The script for every fit that there is."""
    fits = []
    for place, one in enumerate(fit_all(read_table(state), state.fits)):
        if one.fit is not None:
            fits.append(
                ScriptedFit(one.wanted.letter, name_of(one), one.fit, _asked(state, one.wanted.letter, place == 0))
            )
    return write_script(state.title, state.level, fits)


def _asked(state: StudyState, letter: str, leading: bool) -> list[float]:
    """Every x at which this fit was asked for y."""
    found: list[float] = []
    for answer in state.answers:
        mine = answer.fit in (letter, "all") or (leading and not answer.fit)
        if answer.direction == "y_at_x" and mine:
            try:
                found += read_list(answer.given)
            except NotANumber:
                continue
    return list(dict.fromkeys(found))
