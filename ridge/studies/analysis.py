"""From a state to everything the screen says about it. Computed, never stored; remembered by content."""

from __future__ import annotations

import logging
import math
from collections.abc import Iterable
from uuid import UUID

import numpy as np

from ridge.core import Fit
from ridge.core.errors import FormulaError, UndefinedAt
from ridge.core.judging.cautions import find
from ridge.core.models import Sinusoid
from ridge.core.readings import Array
from ridge.core.wording.answers import level_text
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.derived import word_derived
from ridge.core.wording.equation import word_equation, write_symbols
from ridge.core.wording.families import model_name, parameter_meaning
from ridge.core.wording.judgement import how_well, list_statistics
from ridge.core.wording.method import method_sentence, rounding_sentence
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import full, group, probability, share, significant, write
from ridge.core.wording.readings import before_fit, word_refusal
from ridge.core.wording.rounding import round_with_uncertainty, uncertainty_decimals
from ridge.core.wording.straight import straighten
from ridge.studies.answers import answer, answer_unknown
from ridge.studies.fits import FAILED, Fitted, fit_all
from ridge.studies.models import Study
from ridge.studies.readings import Status, Table, read_table
from ridge.studies.recent import Recent
from ridge.studies.schemas import (
    AnalysisOut,
    AnswerOut,
    CautionOut,
    CurveOut,
    DerivedOut,
    FitOut,
    NamingOut,
    ParameterOut,
    ProblemOut,
    StatisticOut,
    StraightOut,
    StretchOut,
    ViewOut,
)
from ridge.studies.state import StudyState

SAMPLES = {"line": 97, "other": 321}
SAMPLES_A_CYCLE, MOST_SAMPLES = 24, 4000
PROBLEMS_SHOWN = 50
FARTHEST = 1e307  # no view reaches farther, so that its width stays finite
log = logging.getLogger(__name__)


def finite(values: Array | Iterable[float]) -> list[float | None]:
    """For JSON: None where a value is not finite."""
    array = np.asarray(values, dtype=float)
    if np.isfinite(array).all():
        return array.tolist()  # type: ignore[no-any-return]
    return [value if math.isfinite(value) else None for value in array.tolist()]


def analyse(state: StudyState) -> AnalysisOut:
    """The whole analysis of a state. Should it fail in a way that was not foreseen, the readings can still be opened."""
    table = read_table(state)
    try:
        return _analyse(state, table, fit_all(table, state.fits))
    except Exception:
        log.exception("the analysis failed")
        return _analyse(state, table, [Fitted(wanted, None, None, FAILED) for wanted in state.fits])


def _analyse(state: StudyState, table: Table, fitted: list[Fitted]) -> AnalysisOut:
    naming, readings = table.naming, table.readings
    fits = [_word_fitted(one, table, state) for one in fitted]
    leading = fitted[0].fit if fitted else None
    answers = [answer(leading, kept, state.level, naming) for kept in state.answers]
    unknowns = [answer_unknown(leading, unknown, state.level, naming) for unknown in table.unknowns]
    view = default_view(table, leading, [*answers, *(unknown.answer for unknown in unknowns)])
    for one, out in zip(fitted, fits, strict=True):
        if one.fit is not None:
            out.curve = sample_curve(one.fit, view.x.low, view.x.high, state.level)
    low, high = readings.measured_range
    straight = straighten(leading, naming) if leading else "There is no fit yet."
    return AnalysisOut(
        naming=NamingOut(**{name: getattr(naming, name) for name in NamingOut.model_fields}),
        status=table.status.tolist(),
        x=finite(readings.x),
        y=finite(readings.y),
        y_error=None if readings.y_error is None else finite(readings.y_error),
        x_error=None if readings.x_error is None else finite(readings.x_error),
        series=list(table.series.names) if table.series else [],
        series_of=table.series.indices.tolist() if table.series else None,
        repeated_x=_repeated(table),
        straight=None if isinstance(straight, str) else StraightOut(**vars(straight)),
        straight_refusal=straight if isinstance(straight, str) else "",
        summary=_summary(table),
        problems=[ProblemOut(row=p.row, column=p.column, message=p.message) for p in table.problems[:PROBLEMS_SHOWN]],
        problems_more=max(0, len(table.problems) - PROBLEMS_SHOWN),
        measured=StretchOut(low=low, high=high) if math.isfinite(low) else None,
        before_fit=before_fit(readings, naming),
        view=view,
        fits=fits,
        answers=answers,
        unknowns=unknowns,
    )


def _repeated(table: Table) -> list[int]:
    """Rows in use whose x another row in use shares, a thousand at most."""
    rows = np.flatnonzero(table.status == Status.USED)
    _, inverse, counts = np.unique(table.readings.x[rows], return_inverse=True, return_counts=True)
    return rows[counts[inverse] > 1][:1000].tolist()  # type: ignore[no-any-return]


def _summary(table: Table) -> str:
    parts = [f"{group(str(table.count(Status.USED)))} used"]
    if aside := table.count(Status.ASIDE):
        parts.append(f"{group(str(aside))} set aside")
    if unknown := table.count(Status.UNKNOWN):
        parts.append(f"{group(str(unknown))} unknown")
    if assumed := int((table.readings.assumed & (table.status == Status.USED)).sum()):
        parts.append(f"{group(str(assumed))} assumed")
    if table.problems:
        parts.append(f"{group(str(len(table.problems)))} left out")
    return " · ".join(parts)


def _word_fitted(one: Fitted, table: Table, state: StudyState) -> FitOut:
    """A fit, or its refusal, in words."""
    wanted, naming = one.wanted, table.naming
    out = FitOut(
        letter=wanted.letter,
        family=wanted.family,
        name=model_name(one.model) if one.model else "own formula" if wanted.family == "formula" else wanted.family,
        options=one.options,
        fixed=dict(wanted.fixed),
        series=wanted.series,
        least_squares_in=wanted.method,
        refusal=one.refusal,
    )
    if one.model is not None:
        out.form_text, out.form_latex = write_symbols(one.model, naming)
    if one.error is not None:
        out.refusal = word_refusal(one.error, one.readings or table.readings, naming, out.name)
        if isinstance(one.error, UndefinedAt):
            out.refused_rows = list(one.error.rows[:1000])
        if isinstance(one.error, FormulaError):
            out.refused_at = [one.error.position, one.error.position + one.error.length]
    if one.fit is not None:
        _word_fit(out, one.fit, naming, table.count(Status.ASIDE), state.level)
    return out


def _word_fit(out: FitOut, result: Fit, naming: Naming, aside: int, level: float) -> None:
    statistics = result.statistics
    equation = word_equation(result, naming)
    s = statistics.residual_standard_deviation
    low, high = result.readings.measured_range
    out.measured = StretchOut(low=low, high=high)
    out.equation_text, out.equation_latex = equation.text, equation.latex
    out.rounding = rounding_sentence(result, naming, equation)
    units = naming.parameter_units(result.model)
    out.parameters = [_word_parameter(result, name, units[name], naming, level) for name in result.parameters]
    out.derived = [DerivedOut(**vars(text)) for text in word_derived(result, naming)]
    out.how_well = how_well(result, naming)
    out.method = method_sentence(result, naming, aside)
    out.r_squared = "–" if statistics.r_squared is None else share(statistics.r_squared)
    out.typical_miss = "–" if s is None or statistics.exact else naming.y_with_unit(significant(s, 3).text)
    out.deviation = None if s is None or not math.isfinite(s) else s
    out.statistics = [StatisticOut(**vars(text)) for text in list_statistics(result, naming)]
    out.cautions = [
        CautionOut(code=c.code, message=c.message, remedy=c.remedy, rows=list(c.rows))
        for c in (word_caution(finding, naming) for finding in find(result))
    ]
    out.residuals = finite(result.residuals)


def _word_parameter(result: Fit, name: str, unit: str, naming: Naming, level: float) -> ParameterOut:
    parameter = result.parameters[name]
    error = None if result.statistics.exact else parameter.standard_error
    rounded = round_with_uncertainty(parameter.value, error)
    relative = parameter.relative_error
    interval = ""
    low, high = parameter.interval(level)
    if error and math.isfinite(low):
        decimals = uncertainty_decimals(high - low) + 1
        interval = f"{level_text(level)}: {write(low, decimals).text} to {write(high, decimals).text}"
    return ParameterOut(
        name=name,
        symbol=naming.letter(name),
        meaning=parameter_meaning(result.model, name, naming),
        value=rounded.value,
        uncertainty=rounded.uncertainty,
        unit=unit,
        relative=""
        if relative is None or not error or relative > 10
        else f"{significant(relative * 100, 2).text}\u00a0%",
        fixed=parameter.fixed,
        interval=interval,
        t="" if parameter.t is None else significant(parameter.t, 3).text,
        p="" if parameter.p_value is None else probability(parameter.p_value),
        full=f"{full(parameter.value)}" + (f" ± {full(error)}" if error else ""),
    )


def sample_curve(result: Fit, low: float, high: float, level: float, growing: bool = False) -> CurveOut:
    """The curve and its confidence interval over a stretch of the x axis; ``growing``: denser towards zero, for axes
    that are not drawn evenly."""
    count = SAMPLES.get(result.model.family, SAMPLES["other"])
    if isinstance(result.model, Sinusoid):
        cycles = abs(result.values["angular_frequency"]) / result.model.turn * (high - low)
        count = int(min(max(count, SAMPLES_A_CYCLE * cycles), MOST_SAMPLES))
    x = 2 * np.linspace(low / 2, high / 2, count)  # halved, so that the widest stretch does not overflow
    if growing and low > 0 and high / low > 2:
        x = np.geomspace(low, high, max(count, SAMPLES["other"]))
    prediction = result.predict(x, level)
    return CurveOut(
        x=x.tolist(),
        y=finite(prediction.value),
        low=finite(prediction.mean_low),
        high=finite(prediction.mean_high),
    )


def _padded(low: float, high: float, share_of_span: float) -> StretchOut:
    span = high - low
    if span <= abs(low) * 1e-12:
        span = abs(low) or 1.0
    return StretchOut(low=max(low - share_of_span * span, -FARTHEST), high=min(high + share_of_span * span, FARTHEST))


def default_view(table: Table, result: Fit | None, answers: list[AnswerOut]) -> ViewOut:
    """All readings, those set aside too, and the answers that stand within two ranges of them."""
    shown = (table.status == Status.USED) | (table.status == Status.ASIDE)
    x, y = table.readings.x[shown], table.readings.y[shown]
    if not len(x):
        return ViewOut(x=StretchOut(low=0, high=10), y=StretchOut(low=0, high=10), residual=1.0)
    marks = [a.mark for a in answers if a.mark]
    low, high = float(x.min()), float(x.max())
    reach = 2 * (high - low)
    near = [mark for mark in marks if low - reach <= mark.x <= high + reach]
    xs = [low, high, *(mark.x for mark in near)]
    ys = [float(y.min()), float(y.max()), *(mark.y for mark in near)]
    if table.readings.y_error is not None:
        errors = np.nan_to_num(table.readings.y_error[shown])
        ys += [float((y - errors).min()), float((y + errors).max())]
    residual = 1.0
    if result is not None:
        used = result.residuals[table.readings.used]
        residual = float(np.max(np.abs(used), initial=0.0)) or result.statistics.residual_standard_deviation or 1.0
        residual = min(residual, FARTHEST)
    return ViewOut(x=_padded(min(xs), max(xs), 0.09), y=_padded(min(ys), max(ys), 0.09), residual=residual * 1.25)


_recent: Recent[tuple[UUID, int], AnalysisOut] = Recent(8)


def analysis_of(study: Study, state: StudyState) -> AnalysisOut:
    """The analysis of a stored state, computed once."""
    return _recent.get_or_make((study.pk, study.version), lambda: analyse(state))
