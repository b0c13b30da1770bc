"""A fit, a curve set by hand, a known curve or an interpolation as the page shows it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ridge.core.by_hand import handles, places
from ridge.core.catalogue import entry_of
from ridge.core.errors import FormulaError, RepeatedX, UndefinedAt
from ridge.core.interpolation import Interpolation
from ridge.core.interpolation.cautions import findings_of as findings_between
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.misses import in_y, seen_residuals, typical_miss
from ridge.core.models import FAMILIES, Formula
from ridge.core.numerals import full, place, probability, significant, write
from ridge.core.predicting.parameter_limits import Interval, intervals, lopsided, unchecked
from ridge.core.results.finding import Finding
from ridge.core.results.fit import Fit
from ridge.core.wording.by_hand import difference_sentence, what_it_does
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.checklist import failing_checks
from ridge.core.wording.derived import word_derived
from ridge.core.wording.equation import Equation, word_equation, write_symbols
from ridge.core.wording.families import parameter_meaning
from ridge.core.wording.interpolation import NO_R_SQUARED, beyond_interpolation, how_it_goes, interpolation_name
from ridge.core.wording.judgement import how_well, list_statistics, signed_share
from ridge.core.wording.limits import from_limits, level_text, limits_text, what_plus_minus_is
from ridge.core.wording.method import method_sentence, rounding_cost, rounding_sentence
from ridge.core.wording.naming import Naming
from ridge.core.wording.pieces import word_piece
from ridge.core.wording.readings import word_refusal
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.core.wording.sense import word_sense
from ridge.studies.curves import drawn, finite
from ridge.studies.fit_settings import settings, ways
from ridge.studies.fits import Fitted, fit_one, hand_values
from ridge.studies.readings import Status, Table
from ridge.studies.remedies import OTHER_MODEL_HELPS, for_caution, for_refusal
from ridge.studies.schemas import (
    BoundsOut,
    CautionOut,
    CheckOut,
    DecimalsOut,
    DerivedOut,
    DifferenceOut,
    FitOut,
    GripOut,
    HandleOut,
    OtherWayOut,
    ParameterOut,
    PieceOut,
    StatisticOut,
    StretchOut,
)
from ridge.studies.state import StudyState

PIECES_SHOWN = 60
COMPARED = 121
BY_HAND_DIGITS = 4


def refused(one: Fitted) -> FitOut:
    """What a wanted fit is, and why nothing came of it; without reading it further."""
    wanted, entry = one.wanted, entry_of(one.wanted.family, one.wanted.options)
    return FitOut(
        letter=wanted.letter,
        family=wanted.family if entry else "unknown",
        form=entry.key if entry else "",
        settings=settings(one),
        ways=[],
        kind=one.kind,
        name=name_of(one),
        label=wanted.name,
        hidden=wanted.hidden,
        options=one.options,
        fixed=dict(wanted.fixed),
        bounds=[BoundsOut(name=name, low=low, high=high) for name, (low, high) in wanted.bounds.items()],
        x_range=StretchOut(low=wanted.x_range[0], high=wanted.x_range[1]) if wanted.x_range else None,
        series=wanted.series,
        started=bool(wanted.values) and not wanted.by_hand,
        least_squares_in=wanted.method,
        refusal=one.refusal,
    )


def word_fitted(one: Fitted, table: Table, state: StudyState, *, checked: bool) -> FitOut:
    """What came of one wanted fit, or its refusal, in words. ``checked``: whether ± is held against refits."""
    wanted, naming = one.wanted, table.naming
    out = refused(one)
    out.ways = ways(one, table)
    if wanted.x_range is not None:
        out.range_text = f"Only {naming.x} from {naming.x_span(*wanted.x_range)} is used."
    if senses := [said for said in (word_sense(naming, "x"), word_sense(naming, "y")) if said]:
        out.range_text = (
            f"{out.range_text} The curve ends where values make no sense any more: {'; '.join(senses)}.".strip()
        )
    if one.model is not None:
        out.form_text, out.form_latex = write_symbols(one.model, naming)
    if one.error is not None:
        out.refusal = word_refusal(one.error, one.readings or table.readings, naming, out.name)
        if isinstance(one.error, UndefinedAt | RepeatedX):
            out.refused_rows = list(one.error.rows[:1000])
        if isinstance(one.error, FormulaError):
            out.refused_at = [one.error.position, one.error.position + one.error.length]
        out.actions = for_refusal(one, naming)
    equation: Equation | None = None
    if one.fit is not None:
        limits = intervals(one.fit, state.level, checked=checked)
        equation = _word_fit(out, one.fit, naming, table.count(Status.ASIDE), state.level, limits)
        if one.kind == "fit":
            _word_decimals(out, one.fit, naming, equation, wanted.decimals)
        out.cautions = _cautions(one, table, naming, [*lopsided(limits, state.level), *unchecked(limits)])
    if one.interpolation is not None:
        _word_interpolation(out, one.interpolation, naming)
        out.cautions = _cautions(one, table, naming)
    if (
        wanted.family == Formula.family
        and wanted.options.get("text")
        and (one.error is not None or (one.fit is not None and one.fit.held))
    ):
        readings = one.readings or table.readings
        checks = failing_checks(readings, one.model, one.error, one.fit, naming)
        out.checklist = [CheckOut(**vars(check)) for check in checks]
    if one.kind == "hand" and one.model is not None and one.readings is not None and out.refusal == "":
        _add_handles(out, one, naming, equation)
        best = fit_one(table, replace(wanted, by_hand=False, values={})).fit
        out.least_rss = significant(best.statistics.residual_sum_of_squares, 4).text if best else ""
    if wanted.method == "logarithms" and one.fit is not None:
        out.other_way = _other_way(fit_one(table, replace(wanted, method="y")).fit, naming)
    return out


def _other_way(fit: Fit | None, naming: Naming) -> OtherWayOut | None:
    """The same model by least squares in y."""
    if fit is None:
        return None
    s, r_squared = typical_miss(fit), fit.statistics.r_squared
    return OtherWayOut(
        parameters=[
            DerivedOut(
                name=naming.letter(name),
                text=round_with_uncertainty(parameter.value, parameter.standard_error).text,
                full=full(parameter.value),
            )
            for name, parameter in fit.parameters.items()
        ],
        r_squared="–" if r_squared is None else signed_share(r_squared),
        typical_miss="–" if s is None else naming.y_with_unit(significant(s, 3).text),
    )


def name_of(one: Fitted) -> str:
    """What a sentence calls it."""
    if one.kind == "interpolation":
        options = one.options
        return interpolation_name(options["kind"], options["ends"], options["spline_degree"])
    if one.model is None:
        return FAMILIES[one.wanted.family].title if one.wanted.family in FAMILIES else one.wanted.family
    if one.kind == "known":
        return "known curve"
    return f"{one.model.name}, by hand" if one.kind == "hand" else one.model.name


def _cautions(one: Fitted, table: Table, naming: Naming, of_limits: Sequence[Finding] = ()) -> list[CautionOut]:
    """What to know about it, each with what can be done at one press. A curve with given numbers claims nothing."""
    found: list[Finding] = []
    if one.interpolation is not None:
        found = [finding for finding in findings_between(one.interpolation) if finding.code != "no-residuals"]
    elif one.fit is not None and one.fit.least_squares_in != "given":
        found = [*_better_elsewhere(one, table), *findings_of(one.fit), *of_limits]
    out: list[CautionOut] = []
    asked = next((finding.code for finding in found if finding.code in OTHER_MODEL_HELPS and one.fit is not None), "")
    offered: set[str] = set()
    for finding in found:
        caution = word_caution(finding, naming)
        # What helps with several is offered once, beside the gravest.
        actions = [a for a in for_caution(finding, caution, one, naming) if a.label not in offered]
        offered |= {action.label for action in actions}
        out.append(
            CautionOut(
                code=caution.code,
                message=caution.message,
                remedy=caution.remedy,
                rows=list(caution.rows),
                actions=actions,
                other_model=finding.code == asked,
            )
        )
    return out


def _better_elsewhere(one: Fitted, table: Table) -> list[Finding]:
    """Whether a search that began from given values ended in a minimum that is not the best."""
    if not one.wanted.values or one.fit is None or one.fit.model.linear_form is not None:
        return []
    best = fit_one(table, replace(one.wanted, values={})).fit
    if best is None or one.fit.statistics.residual_sum_of_squares == 0:
        return []
    ratio = best.statistics.residual_sum_of_squares / one.fit.statistics.residual_sum_of_squares
    return [Finding("better-elsewhere", facts={"ratio": ratio})] if ratio < 0.999 else []


def _word_fit(
    out: FitOut, result: Fit, naming: Naming, aside: int, level: float, limits: Mapping[str, Interval]
) -> Equation:
    """Everything said of a fit; its equation with as many decimals as it needs."""
    equation = word_equation(result, naming, given_digits=BY_HAND_DIGITS if out.kind == "hand" else None)
    s = typical_miss(result)
    low, high = result.readings.measured_range
    out.measured = StretchOut(low=low, high=high)
    out.equation_text, out.equation_latex = equation.text, equation.latex
    out.rounding = "" if result.least_squares_in == "given" else rounding_sentence(result, naming, equation)
    units = naming.parameter_units(result.model)
    out.parameters = [
        _word_parameter(result, name, units[name], naming, level, limits.get(name)) for name in result.parameters
    ]
    if any(one.uncertainty for one in out.parameters):
        out.plus_minus = what_plus_minus_is(level, limits_too=any(one.lopsided for one in out.parameters))
    out.derived = [DerivedOut(**vars(text)) for text in word_derived(result, naming, limits, level)]
    out.how_well = how_well(result, naming)
    out.method = method_sentence(result, naming, aside, by_hand=out.kind == "hand")
    r_squared = in_y(result).r_squared
    out.r_squared = "–" if r_squared is None else signed_share(r_squared)
    out.typical_miss = "–" if s is None or result.statistics.exact else naming.y_with_unit(significant(s, 3).text)
    out.deviation = None if s is None or not math.isfinite(s) else s
    out.statistics = [StatisticOut(**vars(text)) for text in list_statistics(result, naming)]
    out.residuals = drawn(seen_residuals(result))
    return equation


def _word_decimals(out: FitOut, result: Fit, naming: Naming, safe: Equation, wanted: Mapping[str, int]) -> None:
    """How many decimals the equation shows; with those of the course, what they cost."""
    shown = safe
    out.safe_text, out.safe_latex = safe.text, safe.latex
    known = {name: places for name, places in wanted.items() if name in result.model.free_names}
    if known:
        shown = word_equation(result, naming, decimals={**safe.decimals, **known})
        out.equation_text, out.equation_latex = shown.text, shown.latex
        out.rounding_cost = rounding_cost(result, naming, shown, safe)
    out.decimals = [
        DecimalsOut(
            name=name,
            symbol=naming.letter(name),
            shown=shown.decimals[name],
            safe=safe.decimals[name],
            significant=-1 - place(result.parameters[name].value),
        )
        for name in result.model.free_names
    ]


def _word_parameter(
    result: Fit, name: str, unit: str, naming: Naming, level: float, limits: Interval | None
) -> ParameterOut:
    parameter = result.parameters[name]
    error = None if result.statistics.exact else parameter.standard_error
    rounded = round_with_uncertainty(parameter.value, error)
    relative = parameter.relative_error
    interval, text, unequal = "", rounded.text, False
    if error and limits is not None and limits.method != "none":
        interval = f"{level_text(level)}: {limits_text(limits.low, limits.high)}"
        unequal = limits.method == "profile" or parameter.logarithm is not None
        if limits.method == "unchecked":
            interval = f"{interval} (refining)"
    if unequal and limits is not None:
        # One ± would hide that the limits are not equally far.
        text = f"{significant(parameter.value, 3).text}, {from_limits(limits.low, limits.high)}"
    return ParameterOut(
        name=name,
        symbol=naming.letter(name),
        meaning=parameter_meaning(result.model, name, naming),
        text=text,
        value=rounded.value,
        uncertainty=rounded.uncertainty,
        unit=unit,
        relative=""
        if relative is None or not error or relative > 10
        else f"{significant(relative * 100, 2).text}\u00a0%",
        fixed=parameter.fixed,
        interval=interval,
        lopsided=unequal,
        t="" if parameter.t is None else significant(parameter.t, 3).text,
        p="" if parameter.p_value is None else probability(parameter.p_value),
        full=f"{full(parameter.value)}" + (f" ± {full(error)}" if error else ""),
        number=parameter.value,
    )


def _word_interpolation(out: FitOut, curve: Interpolation, naming: Naming) -> None:
    low, high = curve.readings.measured_range
    out.measured = StretchOut(low=low, high=high)
    out.how_well = how_it_goes(curve)
    out.method = f"{NO_R_SQUARED} {beyond_interpolation(curve)}"
    pieces = curve.pieces
    out.pieces = [PieceOut(**vars(word_piece(piece, naming))) for piece in pieces[:PIECES_SHOWN]]
    out.pieces_more = max(0, len(pieces) - PIECES_SHOWN)


def _add_handles(out: FitOut, one: Fitted, naming: Naming, equation: Equation | None) -> None:
    assert one.model is not None and one.readings is not None
    values = hand_values(one.readings, one.model, one.wanted)
    units = naming.parameter_units(one.model)
    out.handles = [
        HandleOut(
            name=handle.name,
            symbol=naming.letter(handle.name),
            unit=units[handle.name],
            value=handle.value,
            text=_as_in_equation(handle.name, handle.value, equation),
            low=handle.low,
            high=handle.high,
            step=handle.step,
            does=what_it_does(one.model, handle, naming),
        )
        for handle in handles(one.readings, one.model, values)
    ]
    out.grips = [GripOut(**vars(place)) for place in places(one.readings, one.model, values)]


def _as_in_equation(name: str, value: float, equation: Equation | None) -> str:
    """The value of a handle with the digits that the equation shows."""
    decimals = None if equation is None else equation.decimals.get(name)
    return (significant(value, 6) if decimals is None else write(value, decimals)).plain


def differ(one: Fitted, leading: Fitted, naming: Naming) -> DifferenceOut | None:
    """How a curve that was given differs from the leading fit over the measured range."""
    curve, other = one.curve, leading.curve
    if curve is None or other is None or one is leading or one.kind not in ("known", "hand"):
        return None
    low, high = curve.readings.measured_range
    if not low < high:
        return None
    x = np.linspace(low, high, COMPARED)
    with np.errstate(all="ignore"):
        off = curve.evaluate(x) - other.evaluate(x)
    if not np.isfinite(off).any():
        return None
    return DifferenceOut(
        sentence=difference_sentence(x, off, one.wanted.letter, leading.wanted.letter, naming),
        x=x.tolist(),
        y=finite(off),
    )
