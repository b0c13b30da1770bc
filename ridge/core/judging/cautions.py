"""Cautions: what a user should know about a fit. Found here, worded in ``ridge.core.wording.cautions``."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

import numpy as np
from scipy.special import chdtr, chdtrc

from ridge.core.fitting.aliases import faster_period
from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.between import (
    CYCLE,
    distant_levels,
    poles_inside,
    step_between,
    swings,
    undefined_inside,
    waves,
)
from ridge.core.judging.influence import readings_far_off, readings_that_decide
from ridge.core.judging.misses import through_every_reading
from ridge.core.judging.patterns import pattern_of
from ridge.core.judging.recording import coarse_step, copied_rows, end_of_range, few_places
from ridge.core.judging.significance import ALARM, CHECK, SIGNIFICANT
from ridge.core.models import Polynomial, Sinusoid
from ridge.core.results.finding import Finding
from ridge.core.results.fit import Fit, once


@once
def findings_of(fit: Fit) -> tuple[Finding, ...]:
    """Findings on a fit, the gravest first.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.judging.cautions import findings_of
    >>> from ridge.core.models import Line
    >>> [finding.code for finding in findings_of(fit(Readings([1, 2], [2.1, 3.9]), Line()))]
    ['as-many-parameters-as-readings']
    """
    curve = fit.model.graph
    statistics = fit.statistics
    if statistics.r_squared is None and fit.log_line is None:
        found: list[Finding] = [Finding("y-all-equal")]
    else:
        found = [*_without_value(fit), *_of_parameters(fit), *_of_fit(fit), *_of_readings(fit)]
    return tuple(Finding(one.code, one.rows, one.facts, {"curve": curve, **one.words}) for one in found)


def _of_parameters(fit: Fit) -> Iterator[Finding]:
    """What was kept although nobody asked for it."""
    for held in fit.held:
        if held.why == "bound":
            yield Finding("at-bound", facts={"value": held.value}, words={"name": held.name})
    if redundant := [held for held in fit.held if held.why == "redundant"]:
        values = {held.name: held.value for held in redundant}
        yield Finding("not-identifiable", facts=values, words={"combination": redundant[0].combination})


def _of_fit(fit: Fit) -> Iterator[Finding]:
    """What counts and residuals say."""
    statistics, free = fit.statistics, len(fit.model.free_names)
    if statistics.degrees_of_freedom == 0:
        facts = {"n": statistics.n, "parameters": free, "through": float(through_every_reading(fit))}
        yield Finding("as-many-parameters-as-readings", facts=facts)
        yield from _of_shape(fit)
        return
    if statistics.exact:
        yield Finding("exact-fit")
        yield from _of_shape(fit)
        return
    if statistics.n < 2 * free:
        yield Finding("few-readings", facts={"n": statistics.n, "parameters": free})
    beside = chance_beside_constant(fit)
    as_well = beside is not None and beside > SIGNIFICANT
    if as_well:
        code = (
            "slope-not-significant"
            if "slope" in fit.parameters and fit.model.has_constant
            else "no-better-than-constant"
        )
        searched, patterned = float(statistics.searched is not None), float(pattern_of(fit).visible)
        facts = {"p": beside or 0.0, "searched": searched, "patterned": patterned}
        if statistics.compared_with == "zero":  # F is about zero, and may be large all the same
            facts["r_squared"] = statistics.r_squared or 0.0
        yield Finding(code, facts=facts)
    elif fit.cut_short:  # where there is nothing to be found, a search need not settle
        yield Finding("search-cut-short")
    pattern = pattern_of(fit)
    recorded = list(_of_recording(fit))
    yield from recorded
    # A model that does not fit throws readings far off, not the other way round.
    if pattern.visible and not _explained(fit, {one.code for one in recorded}):
        yield Finding("patterned-residuals", facts=_of_pattern(fit))
    if pattern.drift is not None and pattern.drifts:
        yield Finding("drifts", facts={"p": pattern.drift.p, "change": pattern.drift.change})
    far = readings_far_off(fit)
    if far:
        yield Finding("far-off", tuple(far))
    yield from _of_shape(fit, as_well)
    # A bent model fitted to scatter holds on to single readings; a straight one that says nothing may do so because of one.
    means_something = not as_well or fit.model.linear_form is not None
    if means_something and (decide := readings_that_decide(fit)):
        yield Finding("one-reading-decides", tuple(decide))
    if pattern.spread_changes and fit.readings.y_error is None and fit.readings.weight is None:
        yield Finding("spread-changes", facts={"spread": pattern.spread})
    if not as_well and isinstance(fit.model, Polynomial) and free > 2:
        highest = fit.model.free_names[-1]
        p = fit.parameters[highest].p_value
        if p is not None and p > SIGNIFICANT:
            yield Finding("highest-term-not-needed", facts={"p": p, "degree": int(highest[1:])})


def _of_recording(fit: Fit) -> Iterator[Finding]:
    """What the readings show of how they were taken."""
    if copies := copied_rows(fit.readings):
        yield Finding("copied-rows", copies)
    if (ended := end_of_range(fit)) is not None:
        facts = {"value": ended.value, "top": float(ended.top), "expected": ended.expected}
        yield Finding("end-of-range", ended.rows, facts)
    pattern = pattern_of(fit)
    if (coarse := coarse_step(fit, pattern.visible or pattern.mixed)) is not None:
        yield Finding("coarse-step", facts={"step": coarse.step, "scatter": coarse.scatter})
    elif pattern.groups is not None and pattern.mixed:
        groups = pattern.groups
        of = float(fit.statistics.n)
        in_turn = (pattern.ratio or 0.0) > 2 and pattern.order_p is not None and pattern.order_p < CHECK
        yield Finding("two-groups", tuple(groups.members.tolist()), {"p": groups.p, "low": groups.low, "high": groups.high, "of": of, "in_turn": float(in_turn)})  # fmt: skip
    if (places := few_places(fit)) is not None:
        yield Finding("few-places", facts={"places": float(places)})


def _explained(fit: Fit, recorded: set[str]) -> bool:
    """Whether a pattern of the residuals follows from how the readings were taken."""
    if recorded & {"end-of-range", "coarse-step"}:
        return True
    bend_p = pattern_of(fit).bend_p
    return bool(recorded & {"two-groups", "copied-rows"}) and (bend_p is None or bend_p >= CHECK)


def _of_pattern(fit: Fit) -> dict[str, float]:
    pattern = pattern_of(fit)
    known = {"bend_p": pattern.bend_p, "order_p": pattern.order_p, "wave_p": pattern.wave_p}
    facts = {name: 1.0 if p is None else p for name, p in known.items()}
    low, high = fit.readings.measured_range
    cycles = (high - low) / pattern.period if pattern.period else 0.0
    return {
        "period": pattern.period,
        "cycles": cycles,
        "per_cycle": (len(np.unique(fit.readings.x[fit.readings.used])) - 1) / cycles if cycles else 0.0,
        "bend": float(pattern.bend),
        "many": float((pattern.ratio or 0.0) > 2),
        **facts,
    }


def _without_value(fit: Fit) -> Iterator[Finding]:
    """Places within the measured range where there is no curve."""
    low, high = fit.readings.measured_range
    if not high > low or not fit.model.bends:
        return
    if poles := poles_inside(fit):
        yield Finding("pole-inside", facts={"x": poles[0], "number": float(len(poles)), **_sides(fit, poles)})
    elif (missing := undefined_inside(fit)) is not None:
        yield Finding("undefined-inside", facts={"x": missing})


def _sides(fit: Fit, poles: list[float]) -> dict[str, float]:
    """The stretch between poles with the most readings."""
    x = np.sort(fit.readings.x[fit.readings.used])
    edges = np.array([-np.inf, *poles, np.inf])
    counts = [int(((x > low) & (x < high)).sum()) for low, high in pairwise(edges)]
    most = int(np.argmax(counts))
    within = x[(x > edges[most]) & (x < edges[most + 1])]
    return {"from": float(within[0]), "to": float(within[-1]), "kept": float(len(within))} if len(within) else {}


def _of_shape(fit: Fit, as_well: bool = False) -> Iterator[Finding]:
    """What the curve does where no reading says so. ``as_well``: a constant does as well, so that its shape means nothing."""
    low, high = fit.readings.measured_range
    if not high > low or not fit.model.bends:
        return
    if not poles_inside(fit) and (outside := swings(fit)):
        yield Finding("swings", facts={"outside": outside})
    if as_well:
        return
    cycles = waves(fit)
    distinct = len(np.unique(fit.readings.x[fit.readings.used]))
    fastest = max((one.number for one in cycles), default=0.0)
    slowest = min((one.number for one in cycles if one.free), default=np.inf)
    if fastest > (distinct - 1) / 2:
        yield Finding("fewer-than-two-readings-a-cycle", facts={"cycles": fastest, "apart": (high - low) / fastest / 4})
    elif isinstance(fit.model, Sinusoid) and (period := faster_period(fit)) is not None:
        yield Finding("faster-wave-fits", facts={"period": period})
    elif 0 < slowest < CYCLE:
        yield Finding("less-than-a-cycle", facts={"cycles": slowest, "until": low + (high - low) / slowest})
    if level := max(distant_levels(fit), key=lambda one: one.left, default=None):
        yield Finding("level-not-near", facts={"level": level.value, "left": level.left, "at": level.near_at})
    if (step := step_between(fit)) is not None:
        yield Finding("step-between-readings", facts={"low": step[0], "high": step[1]})


NEAR_ZERO = 0.05
"""Share of the largest fitted value below which, on a curve that crosses zero, an uncertainty in per cent makes a reading
dominate the fit: it weighs four hundred times as much (a rule of thumb)."""


def _near_zero(fit: Fit) -> tuple[int, ...] | None:
    """Rows whose uncertainty is next to nothing because it is a share of a fitted value near zero; None where there are none."""
    readings = fit.readings
    if readings.relative_error is None or fit.least_squares_in != "y" or not readings.used.any():
        return None
    errors = readings.y_error
    assert errors is not None
    curve = fit.fitted[readings.used]
    if not (np.min(curve) < 0 < np.max(curve)):
        return None
    small = readings.used & (np.abs(fit.fitted) < NEAR_ZERO * np.max(np.abs(curve)))
    small &= errors < NEAR_ZERO * np.max(errors[readings.used])
    rows = np.flatnonzero(small)
    return tuple(rows.tolist()) if len(rows) else None


def _of_readings(fit: Fit) -> Iterator[Finding]:
    """What was supposed or left unused."""
    reduced, chi = fit.statistics.reduced_chi_squared, fit.statistics.chi_squared
    if reduced is not None and chi is not None:
        degrees = fit.statistics.degrees_of_freedom
        p = 2 * min(float(chdtr(degrees, chi)), float(chdtrc(degrees, chi)))
        if p < ALARM:
            yield Finding("errors-do-not-match", facts={"reduced": reduced, "p": p})
    if (low := _near_zero(fit)) is not None:
        yield Finding("relative-errors-near-zero", low)
    if fit.readings.x_error is not None and fit.least_squares_in != "orthogonal":
        yield Finding("x-errors-not-used")
    if fit.least_squares_in == "logarithms" and fit.log_line is not None:
        yield Finding("in-logarithms")
    readings = fit.readings
    blank = np.isnan(readings.x) & np.isnan(readings.y)
    left_out = readings.included & ~readings.used & ~readings.unknowns & ~blank
    if left_out.any():
        yield Finding("rows-left-out", tuple(np.flatnonzero(left_out).tolist()))
    assumed = fit.readings.assumed & fit.readings.used
    if assumed.any():
        yield Finding("assumed-readings", tuple(np.flatnonzero(assumed).tolist()))
