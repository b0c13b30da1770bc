"""Cautions: what a user should know about a fit. Found here, worded in ``ridge.core.wording.cautions``."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from ridge.core.judging.patterns import find_pattern, readings_far_off, readings_that_decide

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Finding:
    """Something found, not yet in words. ``rows`` are 0-based."""

    code: str
    rows: tuple[int, ...] = ()
    facts: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Caution:
    """A finding in words, with what to do about it. ``rows`` are 0-based rows it names."""

    code: str
    message: str
    remedy: str
    rows: tuple[int, ...] = ()


def find(fit: Fit) -> list[Finding]:
    """Findings on a fit, the gravest first."""
    statistics = fit.statistics
    free = len(fit.model.free_names)
    findings: list[Finding] = []
    if statistics.total_sum_of_squares == 0:
        return [Finding("y-all-equal")]
    if statistics.degrees_of_freedom == 0:
        findings.append(Finding("as-many-parameters-as-readings", facts={"n": statistics.n, "parameters": free}))
    elif statistics.exact:
        findings.append(Finding("exact-fit"))
    else:
        if statistics.n < 2 * free:
            findings.append(Finding("few-readings", facts={"n": statistics.n, "parameters": free}))
        if far := readings_far_off(fit):
            findings.append(Finding("far-off", tuple(far)))
        if decide := [row for row in readings_that_decide(fit) if row not in far]:
            findings.append(Finding("one-reading-decides", tuple(decide)))
        pattern = find_pattern(fit)
        if pattern.visible:
            findings.append(
                Finding("patterned-residuals", facts={"bend": pattern.bend, "bend_p": pattern.bend_p or 1.0})
            )
        slope_p = fit.parameters["slope"].p_value
        if slope_p is not None and slope_p > 0.05:
            findings.append(Finding("slope-not-told-from-zero", facts={"p": slope_p}))
    reduced = statistics.reduced_chi_squared
    if reduced is not None and statistics.degrees_of_freedom >= 3 and not 0.25 < reduced < 3:
        findings.append(Finding("errors-do-not-match", facts={"reduced": reduced}))
    if fit.readings.x_error is not None:
        findings.append(Finding("x-errors-not-used"))
    return findings


def find_cautions(fit: Fit) -> list[Caution]:
    """Cautions on a fit, worded with the plain symbols x and y."""
    from ridge.core.wording.cautions import word_caution
    from ridge.core.wording.naming import Naming

    return [word_caution(finding, Naming()) for finding in find(fit)]
