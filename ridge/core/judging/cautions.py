"""Cautions: what a user should know about a fit. Found here, worded in ``ridge.core.wording.cautions``."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

from ridge.core.judging.beside_constant import chance_beside_constant
from ridge.core.judging.influence import readings_far_off, readings_that_decide
from ridge.core.judging.significance import SIGNIFICANT

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Finding:
    """Something found, not yet in words. ``rows`` are 0-based; ``words`` hold names and ``curve``, what the fit is called."""

    code: str
    rows: tuple[int, ...] = ()
    facts: Mapping[str, float] = field(default_factory=dict)
    words: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Caution:
    """A finding in words, with what to do about it. ``rows`` are 0-based rows it names."""

    code: str
    message: str
    remedy: str
    rows: tuple[int, ...] = ()


def find(fit: Fit) -> list[Finding]:
    """Findings on a fit, the gravest first."""
    curve = {"line": "line", "constant": "constant"}.get(fit.model.family, "curve")
    statistics = fit.statistics
    if statistics.r_squared is None and fit.log_line is None:
        found: list[Finding] = [Finding("y-all-equal")]
    else:
        found = [*_of_parameters(fit), *_of_fit(fit), *_of_curve(fit), *_of_readings(fit)]
    return [Finding(one.code, one.rows, one.facts, {"curve": curve, **one.words}) for one in found]


def _of_parameters(fit: Fit) -> Iterator[Finding]:
    """What was kept although nobody asked for it."""
    for held in fit.held:
        if held.why == "bound":
            yield Finding("at-bound", facts={"value": held.value}, words={"name": held.name})
        else:
            yield Finding(
                "not-identifiable",
                facts={"value": held.value},
                words={"name": held.name, "combination": held.combination},
            )


def _of_fit(fit: Fit) -> Iterator[Finding]:
    """What counts and residuals say."""
    statistics, free = fit.statistics, len(fit.model.free_names)
    if statistics.degrees_of_freedom == 0:
        yield Finding("as-many-parameters-as-readings", facts={"n": statistics.n, "parameters": free})
        return
    if statistics.exact:
        yield Finding("exact-fit")
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
        yield Finding(code, facts={"p": beside or 0.0, "searched": float(statistics.searched is not None)})
    elif fit.cut_short:  # where there is nothing to be found, a search need not settle
        yield Finding("search-cut-short")
    # A model that does not fit throws readings far off, not the other way round.
    pattern = fit.pattern
    if pattern.visible:
        yield Finding("patterned-residuals", facts=_of_pattern(fit))
    far = readings_far_off(fit)
    if far:
        yield Finding("far-off", tuple(far))
    if not as_well and (decide := readings_that_decide(fit)):
        yield Finding("one-reading-decides", tuple(decide))
    if pattern.spread_changes and fit.readings.y_error is None and fit.readings.weight is None:
        yield Finding("spread-changes", facts={"spread": pattern.spread})
    if not as_well and fit.model.family == "polynomial" and free > 2:
        highest = fit.model.free_names[-1]
        p = fit.parameters[highest].p_value
        if p is not None and p > SIGNIFICANT:
            yield Finding("highest-term-not-needed", facts={"p": p, "degree": int(highest[1:])})


def _of_pattern(fit: Fit) -> dict[str, float]:
    pattern = fit.pattern
    known = {"bend_p": pattern.bend_p, "order_p": pattern.order_p, "pairs_p": pattern.pairs_p}
    expected = 2 * pattern.above * pattern.below / max(1, pattern.above + pattern.below)
    facts = {name: 1.0 if p is None else p for name, p in known.items()}
    return {"bend": float(pattern.bend), "many": float(pattern.changes > expected), **facts}


def _of_curve(fit: Fit) -> Iterator[Finding]:
    """What the curve does between the readings."""
    low, high = fit.readings.measured_range
    x = np.sort(fit.readings.x[fit.readings.used])
    if not high > low or fit.model.family == "line":
        return
    zero = [0.0] if low < 0 < high else []  # where 1/x and ln x end
    dense = np.unique(np.concatenate([np.linspace(low, high, 401), x if len(x) < 2000 else x[:: len(x) // 1000], zero]))
    values = fit.evaluate(dense)
    if not np.isfinite(values).all():
        yield Finding("undefined-inside", facts={"x": float(dense[~np.isfinite(values)][0])})
        return
    if fit.model.family in ("polynomial", "formula"):
        y = fit.readings.y[fit.readings.used]
        outside = max(float(values.max() - y.max()), float(y.min() - values.min()))
        if outside > 0.35 * float(np.ptp(y)) and len(fit.model.free_names) > 3:
            yield Finding("swings", facts={"outside": outside})
    if fit.model.family == "sinusoid":
        turn = getattr(fit.model, "turn", 2 * np.pi)
        cycles = fit.values["angular_frequency"] * (high - low) / turn
        if cycles < 0.5:
            yield Finding("less-than-half-a-cycle", facts={"cycles": cycles})
        elif cycles > (len(np.unique(x)) - 1) / 2:
            yield Finding("fewer-than-two-readings-a-cycle", facts={"cycles": cycles})


def _of_readings(fit: Fit) -> Iterator[Finding]:
    """What was supposed or left unused."""
    reduced = fit.statistics.reduced_chi_squared
    if reduced is not None and fit.statistics.degrees_of_freedom >= 3 and not 0.25 < reduced < 3:
        yield Finding("errors-do-not-match", facts={"reduced": reduced})
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


def find_cautions(fit: Fit) -> list[Caution]:
    """Cautions on a fit, worded with the plain symbols x and y."""
    from ridge.core.wording.cautions import word_caution
    from ridge.core.wording.naming import Naming

    return [word_caution(finding, Naming()) for finding in find(fit)]
