"""What the formula editor shows while a formula is typed: typeset, checked, and any part of it on its own."""

from __future__ import annotations

import numpy as np

from ridge.core.errors import FormulaError, RidgeError
from ridge.core.formula import Program, parse
from ridge.core.formula.checks import check_at, check_text, parts_at
from ridge.core.formula.functions import FUNCTIONS
from ridge.core.formula.parse import Parsed
from ridge.core.formula.tree import Node
from ridge.core.formula.writing import symbol_to_latex, to_latex
from ridge.core.models import Formula
from ridge.core.numerals import significant
from ridge.core.wording.equation import write_symbols
from ridge.core.wording.naming import symbol_latex
from ridge.studies.analysis.curves import default_view, finite
from ridge.studies.analysis.fits import called_by, fit_one
from ridge.studies.content.calls import curves_called
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.content.wanted import angles_in_degrees, hand_values, model_of, readings_for
from ridge.studies.words.schemas import FormulaOut, KnownNameOut, NoteOut, PartOut

MOST_PARTS = 40
SAMPLES = 161
MOST_VALUES = 1000


def known_names() -> list[KnownNameOut]:
    """Every function and constant that a formula may use, with its meaning."""
    two = ("min", "max")
    functions = [
        KnownNameOut(name=name, insert=f"{name}(", meaning=f"{function.meaning}{' numbers' if name in two else ''}")
        for name, function in FUNCTIONS.items()
    ]
    return [
        *functions,
        KnownNameOut(name="if", insert="if(", meaning="if(condition, value, other value)"),
        KnownNameOut(name="pi", insert="pi", meaning="3.14159…"),
        KnownNameOut(name="e", insert="e", meaning="2.71828…"),
    ]


def look_at(state: StudyState, letter: str, text: str, degrees: bool, part: int | None) -> FormulaOut:
    """The formula as typed: its typeset form, what is wrong with it, and one of its parts as a curve and as values.

    Its parameters have the values that the fit of this letter has, by name, and 1 where it has none.
    """
    table = read_table(state)
    held = next((one.options for one in state.fits if one.letter == letter), {})
    degrees = degrees or ("degrees" not in held and angles_in_degrees(text, table.naming))
    curves = curves_called(state, letter, text)
    wanted = state.linked(FitState(letter, "formula", options={"text": text, "degrees": degrees, "curves": curves}))
    if not text.strip():
        return FormulaOut(problem="Type a formula, such as a*x + b.")
    try:
        model = model_of(wanted, table.naming, called_by(table, wanted))
    except FormulaError as error:
        return FormulaOut(
            problem=str(error), position=error.position, length=max(error.length, 1), possible=error.possible
        )
    except RidgeError as error:
        return FormulaOut(problem=str(error))
    assert isinstance(model, Formula)
    values = _values(state, table, letter, model)
    parsed = model.parsed
    notes = [
        NoteOut(
            code="calls",
            message=f"{letter}(…) is fit {letter}. For a product write {letter}*(…).",
            position=None,
            length=0,
            rows=[],
        )
        for letter in curves
    ]
    noted = check_text(text, parsed, fitted=table.naming.y)
    noted += check_at(parsed, table.readings, values) if table.readings.used.any() else []
    latex = write_symbols(model, table.naming)[1]
    parts = parts_at(parsed, table.readings.choosing(table.readings.included & False), values)
    out = FormulaOut(
        latex=latex,
        parameters=list(model.parameter_names),
        notes=[
            *notes,
            *(
                NoteOut(code=n.code, message=n.message, position=n.position, length=n.length, rows=list(n.rows[:50]))
                for n in noted
            ),
        ],
        parts=[one.text for one in parts[:MOST_PARTS]],
    )
    if part is not None and 0 <= part < len(out.parts):
        out.part = _part(table, parsed, out.parts[part], values, degrees)
    return out


def _values(state: StudyState, table: Table, letter: str, model: Formula) -> dict[str, float]:
    held: dict[str, float] = {}
    now = next((one for one in state.linked_fits if one.letter == letter), None)
    if now is not None:
        found = fit_one(table, now)
        if found.fit is not None:
            held = found.fit.values
        elif now.by_hand and found.model is not None:
            held = hand_values(readings_for(table, now), found.model, now)
    return {name: held.get(name, 1.0) for name in model.parameter_names}


def _part(table: Table, parsed: Parsed, text: str, values: dict[str, float], degrees: bool) -> PartOut:
    """A part of the formula as a curve over the view and as a value per reading."""
    tree = parse(text, parsed.variable, degrees=degrees).tree
    view = default_view(table, None)
    x = np.linspace(view.x.low, view.x.high, SAMPLES)
    at = table.readings.x[:MOST_VALUES]
    y = _evaluate(tree, parsed, x, values)
    shown = _evaluate(tree, parsed, at, values)
    naming = table.naming

    def symbol(name: str) -> str:
        return symbol_latex(naming.x) if name == parsed.variable else symbol_to_latex(name)

    return PartOut(
        text=text,
        latex=to_latex(tree, symbol),
        x=x.tolist(),
        y=finite(y),
        values=[significant(value, 6, strip=True).text if np.isfinite(value) else "" for value in shown.tolist()],
    )


def _evaluate(tree: Node, parsed: Parsed, x: np.ndarray, values: dict[str, float]) -> np.ndarray:
    names = tuple(parsed.names)
    with np.errstate(all="ignore"):
        found = Program([tree], (parsed.variable, *names))(x, *(np.float64(values[name]) for name in names))[0]
    return np.array(np.broadcast_to(found, x.shape), dtype=np.float64)
