"""The next thing to do, as a change that one press makes: for each caution and for each reason why there is no fit."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from ridge.core.errors import FormulaError, NoFit, OutsideSense, RepeatedX, UndefinedAt
from ridge.core.formula.removable import with_sinc
from ridge.core.formula.writing import to_text
from ridge.core.judging.misses import typical_miss
from ridge.core.models import Constant, Formula, Line, Polynomial
from ridge.core.numerals import name_rows, significant
from ridge.core.results.finding import Caution, Finding
from ridge.core.wording.naming import Naming
from ridge.studies.analysis.catalogue import better_model, on_offer
from ridge.studies.analysis.fits import Fitted, fit_one
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.changes.fits import SetFit
from ridge.studies.content.changes.marks import Mark, MarkRows
from ridge.studies.content.changes.page import EditStudy
from ridge.studies.content.course_rules import check_course
from ridge.studies.content.options import FitOptions
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_schemas import ActionOut, FitOut, RefusedFit

MOST_ROWS = 5


OTHER_MODEL_HELPS = {
    "patterned-residuals", "pole-inside", "swings", "far-off", "one-reading-decides", "level-not-near", "less-than-a-cycle",
    "step-between-readings", "fewer-than-two-readings-a-cycle", "not-identifiable", "search-cut-short",
}  # fmt: skip
"""Cautions with which another model of the catalogue may help. It is looked for when it is asked for (``other_model``)."""


def other_model(state: StudyState, letter: str) -> ActionOut | None:
    """The model of the catalogue that the readings of a fit prefer to it, at one press; None where there is none."""
    table = read_table(state)
    wanted = next((one for one in state.linked_fits if one.letter == letter), None)
    if wanted is None:
        return None
    one = fit_one(table, wanted)
    better = better_model(one, table, on_offer(state.course))
    if better is None or better.fit is None or better.model is None or one.fit is None:
        return None
    misses = [typical_miss(fit) or 0.0 for fit in (one.fit, better.fit)]
    now, then = next(filter(_differ, (_written(misses, table.naming, digits) for digits in (2, 3, 4))), ("", ""))
    return ActionOut(
        label=f"Use {better.model.name}" + (f": typical miss {then}, not {now}" if then else ""),
        change=SetFit(letter=letter, family=better.wanted.family, options=FitOptions(**better.wanted.options)),
    )


def _written(values: Sequence[float], naming: Naming, digits: int) -> list[str]:
    return [naming.y_with_unit(significant(value, digits).text) for value in values]


def _differ(texts: Sequence[str]) -> bool:
    return len(set(texts)) == len(texts)


def for_caution(finding: Finding, caution: Caution, one: Fitted, naming: Naming) -> list[ActionOut]:
    """What can be done about a caution, most helpful first; nothing where only new readings or a thought help."""
    letter, fit = one.wanted.letter, one.fit

    def set_fit(label: str, **what: Any) -> ActionOut:
        return ActionOut(label=label, change=SetFit(letter=letter, **what))

    def aside() -> Iterable[ActionOut]:
        if caution.rows and len(caution.rows) <= MOST_ROWS:
            yield _set_aside(caution.rows, "unusually large residual")

    match caution.code:
        case "not-identifiable" if fit is not None:
            held = [h for h in fit.held if h.why == "redundant"]
            return [
                *(
                    set_fit(
                        f"Fix {naming.letter(h.name)} at {significant(h.value, 4, strip=True).text}",
                        fixed={**one.wanted.fixed, h.name: h.value},
                    )
                    for h in held[:3]
                ),
            ]
        case "at-bound" if fit is not None:
            names = [h.name for h in fit.held if h.why == "bound"]
            bounds = {name: list(pair) for name, pair in one.wanted.bounds.items()}
            return [
                set_fit(f"Remove the bound on {naming.letter(n)}", bounds={k: v for k, v in bounds.items() if k != n})
                for n in names[:3]
            ]
        case "patterned-residuals" if isinstance(one.model, Formula) and one.model.constant is None:
            taken = one.model.parameter_names
            letter_free = next(name for name in "cdbfghkmpqrsuvwz" if name not in taken and name != one.model.variable)
            text = f"{one.options['text']} + {letter_free}"
            return [set_fit(f"Add a constant term: + {letter_free}", options={"text": text})]
        case "pole-inside" if "from" in finding.facts:
            low, high = finding.facts["from"], finding.facts["to"]
            said = f"{naming.x} = {naming.x_span(low, high)}"
            return [set_fit(f"Fit only {said}", x_range=[low, high])]
        case "level-not-near" if one.options.get("level"):
            return [set_fit("Fit it without a level", options={"level": False})]
        case "swings" if isinstance(one.model, Polynomial) and int(one.options["degree"]) > 2:
            degree = int(one.options["degree"]) - 1
            return [set_fit(f"Lower the degree to {degree}", options={"degree": degree})]
        case "series-differ":
            first = finding.words["first"]
            return [set_fit(f"Fit to {first} only", series=first)]
        case "far-off":
            return list(aside())
        case "copied-rows":
            return [_set_aside(caution.rows, "copy of an earlier row")]
        case "end-of-range":
            return [_set_aside(caution.rows, "end of the range of the instrument")]
        case "no-better-than-constant" | "slope-not-significant" if not finding.facts["patterned"]:
            return [set_fit("Use a constant", family=Constant.family)]
        case "highest-term-not-needed":
            degree = int(one.options.get("degree", 0))
            if degree > 2:
                return [set_fit(f"Lower the degree to {degree - 1}", options={"degree": degree - 1})]
            return [set_fit("Use a line", family=Line.family)] if degree == 2 else []
        case "in-logarithms":
            return [set_fit(f"Least squares in {naming.y}", method="y")]
        case "x-errors-not-used":
            return [set_fit(f"Least squares in {naming.x} and {naming.y}", method="orthogonal")]
        case "search-cut-short":
            return [set_fit("Set by hand first", by_hand=True)]
        case "errors-do-not-match":
            return [ActionOut(label="Treat as relative", change=EditStudy(absolute_errors=False))]
        case "many-nodes-one-polynomial":
            return [set_fit("Use a cubic spline", options={"kind": "cubic-spline"})]
        case "swings" if one.kind == "interpolation":
            return [set_fit("Use a monotone curve", options={"kind": "monotone"})]
        case "better-elsewhere":
            return [set_fit("Use the better fit", values={})]
    return []


def for_refusal(one: Fitted, naming: Naming) -> list[ActionOut]:
    """What can be done where there is no fit."""
    letter, error = one.wanted.letter, one.error

    def set_fit(label: str, **what: Any) -> ActionOut:
        return ActionOut(label=label, change=SetFit(letter=letter, **what))

    found = []
    if isinstance(error, FormulaError) and error.suggestion:
        found.append(set_fit(f"Use {error.possible} for {error.found}", options={"text": error.suggestion}))
    if isinstance(error, RepeatedX):
        found.append(set_fit(f"Average at each {naming.x}", options={"average": True}))
    if isinstance(error, UndefinedAt):
        if isinstance(one.model, Formula) and (closed := with_sinc(one.model.parsed.tree)) is not one.model.parsed.tree:
            found.append(set_fit("Use sinc, which is 1 at 0", options={"text": to_text(closed)}))
        if one.options.get("shift") is False:
            found.append(set_fit("Allow a shift", options={"shift": True}))
        if one.wanted.method == "logarithms":
            found.append(set_fit(f"Least squares in {naming.y}", method="y"))
        if len(error.rows) <= MOST_ROWS:
            found.append(_set_aside(error.rows, error.why))
    if isinstance(error, NoFit):
        found.append(set_fit("Set by hand", by_hand=True))
    if isinstance(error, OutsideSense) and error.name == "series":
        found.append(set_fit("Fit to all series", series=""))
    if isinstance(error, OutsideSense) and error.name == "ends":
        found.append(set_fit("Use natural ends", options={"ends": "natural"}))
    return found


def keep_to_course(fits: Iterable[FitOut], state: StudyState) -> None:
    """Take away what the course of a copy would refuse once it is pressed."""

    def kept(actions: list[ActionOut]) -> list[ActionOut]:
        return [action for action in actions if _is_taken(action, state)]

    for fit in fits:
        if isinstance(fit, RefusedFit):
            fit.actions = kept(fit.actions)
        for caution in [] if isinstance(fit, RefusedFit) else fit.cautions:
            caution.actions = kept(caution.actions)


def _is_taken(action: ActionOut, state: StudyState) -> bool:
    try:
        check_course(state, action.change.apply(state).state)
    except ChangeRefused:
        return False
    return True


def _set_aside(rows: Sequence[int], reason: str) -> ActionOut:
    return ActionOut(
        label=f"Set {name_rows(list(rows))} aside",
        change=MarkRows(marks=[Mark(row=row, reason=reason) for row in rows]),
    )
