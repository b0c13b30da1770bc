"""Workings of what a study has: its fits, its answers, and forms that nobody has fitted yet."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Literal

from ridge.core.catalogue import ENTRIES, defaults_of
from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.interpolation.kinds import FAMILY as INTERPOLATION
from ridge.core.models import Formula
from ridge.core.wording.naming import Naming
from ridge.core.workings import Working, work
from ridge.core.workings.offered import offered_for, offered_for_interpolation
from ridge.exchange.cells import NotANumber
from ridge.studies.analysis.answering import read_asked
from ridge.studies.analysis.fits import called_by, fit_one
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import FitState, Question, StudyState
from ridge.studies.content.wanted import hand_values, known_values, model_of, readings_for

FORM = "form:"
ANSWER = "answer:"


@dataclass(frozen=True)
class Followable:
    """Something with workings. ``key``: letter of a fit, ``form:`` and a key of the catalogue, or ``answer:`` and its key; ``whats``: the
    workings by name; ``x`` and ``y``: what an answer is about, as typed."""

    key: str
    kind: Literal["fit", "form", "answer"]
    name: str
    whats: tuple[str, ...]
    x: str = ""
    y: str = ""


def followables(state: StudyState) -> list[Followable]:
    """Everything in this study that can be followed: fits first, then answers, then forms."""
    table = read_table(state)
    return [*_fits(state, table), *_answers(state, table), *_forms(table)]


def _fits(state: StudyState, table: Table) -> Iterator[Followable]:
    for wanted in state.linked_fits:
        whats = _offered(table, wanted)
        if whats:
            yield Followable(wanted.letter, "fit", wanted.name, whats)


def _offered(table: Table, wanted: FitState) -> tuple[str, ...]:
    """The workings of a fit; none where its model cannot be read."""
    if wanted.family == INTERPOLATION:
        options = defaults_of(INTERPOLATION) | dict(wanted.options)
        return offered_for_interpolation(options["kind"], options["ends"])
    try:
        model = model_of(wanted, table.naming, called_by(table, wanted))
    except RidgeError:
        return ()
    return offered_for(model, wanted.method, wanted.by_hand)


def _answers(state: StudyState, table: Table) -> Iterator[Followable]:
    """Answers to one x or one y of one fit."""
    for answer in state.answers:
        wanted = _fit_of(state, answer.fit)
        if wanted is None or answer.direction not in ("y_at_x", "x_at_y"):
            continue
        try:
            values = read_asked(answer, table.naming)
        except NotANumber:
            continue
        if len(values) != 1 or answer.repeats != 1:
            continue
        what = {"y_at_x": "interval-at", "x_at_y": "solve-for-x"}[answer.direction]
        offered = _offered(table, wanted)
        whats = (
            (what,)
            if what in offered
            else offered
            if wanted.family == INTERPOLATION and answer.direction == "y_at_x"
            else ()
        )
        if whats:
            x, y = (answer.given, "") if answer.direction == "y_at_x" else ("", answer.given)
            yield Followable(ANSWER + answer.key, "answer", answer.name, whats, x, y)


def _fit_of(state: StudyState, letter: str) -> FitState | None:
    """The fit that an answer is asked of; None for every one at once, or none."""
    fits = state.linked_fits
    if letter == "all" or not fits:
        return None
    return fits[0] if not letter else next((one for one in fits if one.letter == letter), None)


def _forms(table: Table) -> Iterator[Followable]:
    """Forms of the catalogue before they are fitted: what leads to their fit."""
    for entry in ENTRIES.values():
        if entry.family == Formula.family:
            continue
        wanted = FitState("A", entry.family, options=entry.options)
        before = tuple(
            what for what in _offered(table, wanted) if what not in ("goodness-of-fit", "interval-at", "solve-for-x")
        )
        if before:
            yield Followable(FORM + entry.key, "form", entry.form.name, before)


@dataclass(frozen=True)
class Wanted:
    """Which working of what, how its numbers are written, and for which x or y, as typed."""

    of: str
    what: str
    form: Literal["fractions", "decimals"] = "fractions"
    places: int = 4
    x: str = ""
    y: str = ""


def follow(state: StudyState, wanted: Wanted, attempts: Sequence[Mapping[str, float]] = ()) -> Working:
    """The working. Raises OutsideSense for what the study does not have, NotANumber for what was typed, and what ``work`` raises."""
    table = read_table(state)
    known = next((one for one in followables(state) if one.key == wanted.of), None)
    if known is None or wanted.what not in known.whats:
        raise OutsideSense("working", "There is no such working here any more.")
    naming = table.naming
    x = _number("y_at_x", known.x or wanted.x, naming)
    y = _number("x_at_y", known.y or wanted.y, naming)
    of = _state_of(state, wanted.of)
    make = partial(work, form=wanted.form, places=wanted.places, x=x, y=y, level=state.level, naming=naming)
    if of.family == INTERPOLATION:
        options = defaults_of(INTERPOLATION) | dict(of.options)
        slopes = (options["first_slope"], options["last_slope"])
        return make(wanted.what, readings_for(table, of), end_slopes=slopes, average_repeats=options["average"])
    return _of_model(table, of, wanted.what, attempts, make)


def _state_of(state: StudyState, key: str) -> FitState:
    """The fit that is followed; of a form one that is made for it."""
    if key.startswith(FORM):
        entry = ENTRIES[key.removeprefix(FORM)]
        return FitState("A", entry.family, options=entry.options)
    if key.startswith(ANSWER):
        answer = next(one for one in state.answers if ANSWER + one.key == key)
        found = _fit_of(state, answer.fit)
        assert found is not None  # or it would not be offered
        return found
    return next(one for one in state.linked_fits if one.letter == key)


def _of_model(
    table: Table, of: FitState, what: str, attempts: Sequence[Mapping[str, float]], make: Callable[..., Working]
) -> Working:
    model = model_of(of, table.naming, called_by(table, of))
    readings = readings_for(table, of)
    if what in ("by-hand", "least-squares-path"):
        values = hand_values(readings, model, of) if of.by_hand else _found_values(table, of, what)
        tried = [{**dict(model.fixed), **values, **known_values(one, model)} for one in attempts]
        return make(what, readings, model, values=values, attempts=tried)
    made = fit_one(table, of)
    if made.error is not None:
        raise made.error
    if made.fit is None:
        raise OutsideSense("fit", "could not be made: see why on the page.")
    return make(what, readings, made.fit)


def _found_values(table: Table, of: FitState, what: str) -> dict[str, float]:
    """Of a fit that was made, its own values beside the readings; a path begins where the eye would."""
    if what == "least-squares-path":
        return {}
    fit = fit_one(table, of).fit
    return dict(fit.values) if fit is not None else {}


def _number(direction: Literal["y_at_x", "x_at_y"], text: str, naming: Naming) -> float | None:
    """What was typed as one number; None for nothing."""
    if not text.strip():
        return None
    values = read_asked(Question(direction, text), naming)
    return values[0] if values else None
