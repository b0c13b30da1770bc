"""The Python script of a study: its curves, and what was asked of them and kept."""

from __future__ import annotations

from ridge.core.decimal_sign import written_with
from ridge.exchange.cells import NotANumber
from ridge.exchange.script import Question, Script, ScriptedFit, write_script
from ridge.studies.analysis.answering import read_asked
from ridge.studies.analysis.fits import fit_all
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.own_quantities import scripted_follows


def script_of(state: StudyState) -> str:
    """The script for every curve that there is. Python knows decimal points only, in its comments and strings too."""
    with written_with("point"):
        return _script_of(state)


def _script_of(state: StudyState) -> str:
    table = read_table(state)
    fitted = fit_all(table, state.linked_fits)
    fits = [
        ScriptedFit(
            one.wanted.letter,
            one.wanted.name or name_of(one),
            one.curve,
            _asked(state, table, one.wanted.letter, place == 0),
            list(scripted_follows(one, fitted, table, state)),
            [error.name for error in one.shared] if one.kind == "fit" else (),
        )
        for place, one in enumerate(fitted)
        if one.curve is not None
    ]
    x, y = table.readings.x, table.readings.y
    aside = [(row, float(x[row]), float(y[row]), reason) for row, reason in sorted(state.aside.items()) if row < len(x)]
    return write_script(Script(state.title, state.question, state.level, table.naming, aside, fits))


def _asked(state: StudyState, table: Table, letter: str, leading: bool) -> list[Question]:
    """Everything that this curve was asked: by the unknowns among the rows, and by the answers that were kept."""
    found = [Question(True, list(unknown.values)) for unknown in table.unknowns] if leading else []
    for answer in state.answers:
        mine = answer.fit in (letter, "all") or (leading and not answer.fit)
        try:
            if mine and answer.direction == "y_at_x":
                found.append(Question(False, read_asked(answer, table.naming)))
            elif mine and answer.direction == "x_at_y":
                values = read_asked(answer, table.naming)
                groups = [values] if answer.repeats > 1 else [[value] for value in values]
                found += [Question(True, group, answer.repeats) for group in groups]
        except NotANumber:
            continue
    return found
