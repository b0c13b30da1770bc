"""A fit by hand: the residual table at the values at hand, what one parameter more or less does, and the attempts so far."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ridge.core.by_hand.handles import first_values, handles
from ridge.core.errors import OutsideSense
from ridge.core.formula.tree import Name
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.steps import Exact, ModelEquation, Origin, Statement, Step, Table, parameter
from ridge.core.workings.asked import Asked
from ridge.core.workings.exact_columns import exactly
from ridge.core.workings.residual_table import residual_table


def tried_by_hand(asked: Asked) -> list[Step]:
    """The table, the total when each parameter goes one step up or down, and the log of attempts.

    The values are those given, of a fit that was set by hand, or read off the readings. Raises UndefinedAt, OutsideSense.
    """
    model, readings = asked.wanted_model, asked.readings
    values = values_at_hand(asked)
    missed = residual_table(readings, model, values)
    exact_values = {name: exactly(values[name]) for name in model.parameter_names}
    steps: list[Step] = [
        ModelEquation("at-hand", model, exact_values),
        missed.table,
        Statement("signs", facts={"signs": missed.table.facts["signs"]}),
        _one_at_a_time(readings, model, values, float(missed.rss)),
    ]
    if asked.attempts:
        steps.append(_attempts(readings, model, [*asked.attempts, values]))
    return steps


def values_at_hand(asked: Asked) -> dict[str, float]:
    model = asked.wanted_model
    found: Mapping[str, float] = asked.values
    if not found and asked.given_fit is not None:
        found = asked.given_fit.values
    found = {**first_values(asked.readings, model), **model.fixed, **found}
    for name, value in found.items():
        if not np.isfinite(value):
            raise OutsideSense(name, "must be a finite number.")
    return {name: float(found[name]) for name in model.parameter_names}


def _rss(readings: Readings, model: Model, values: Mapping[str, float]) -> float:
    used = readings.used
    with np.errstate(all="ignore"):
        off = readings.y[used] - model.evaluate(readings.x[used], values)
        return float(readings.used_weights @ off**2)


def _one_at_a_time(readings: Readings, model: Model, values: dict[str, float], rss: float) -> Step:
    """Each parameter one step down and one up, the others kept: the total there."""
    rows = []
    labels = []
    for handle in handles(readings, model, values):
        down, up = (
            _rss(readings, model, values | {handle.name: values[handle.name] + way * handle.step}) for way in (-1, 1)
        )
        labels.append(parameter(handle.name))
        rows.append((exactly(values[handle.name]), exactly(handle.step), down, rss, up))
    headings = tuple(Name(name) for name in ("at_hand", "one_step", "rss_down", "rss", "rss_up"))
    return Table("one-at-a-time", headings, tuple(rows), labels=tuple(labels), origins=(Origin("residual-table"),))


def _attempts(readings: Readings, model: Model, attempts: list[Mapping[str, float]]) -> Step:
    totals = [_rss(readings, model, one) for one in attempts]
    rows: list[tuple[Exact, ...]] = [
        (*(exactly(float(one[name])) for name in model.parameter_names), total)
        for one, total in zip(attempts, totals, strict=True)
    ]
    best = min(range(len(totals)), key=lambda place: (totals[place], place))
    headings = (*(parameter(name) for name in model.parameter_names), Name("rss"))
    return Table("attempts", headings, rows, marked_row=best)
