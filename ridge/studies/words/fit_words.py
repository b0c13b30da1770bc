"""A fit, a curve set by hand, a known curve or an interpolation as the page shows it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from ridge.core.by_hand import handles, places
from ridge.core.carrying import intervals_with_shared, with_shared
from ridge.core.catalogue import entry_of
from ridge.core.errors import FormulaError, RepeatedX, UndefinedAt
from ridge.core.interpolation import Interpolation
from ridge.core.interpolation.cautions import findings_of as findings_between
from ridge.core.judging.cautions import findings_of
from ridge.core.judging.groups import groups_apart
from ridge.core.judging.misses import in_y, seen_residuals, typical_miss
from ridge.core.judging.significance import ALARM
from ridge.core.models import FAMILIES, Formula
from ridge.core.numerals import full, join, p_text, place, probability, share, significant, write
from ridge.core.predicting.parameter_limits import Interval, asymmetric, intervals, unchecked
from ridge.core.results.finding import Finding
from ridge.core.results.fit import Fit
from ridge.core.results.parameter import Parameter
from ridge.core.wording.by_hand import difference_sentence, what_it_does
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.checklist import failing_checks
from ridge.core.wording.derived import word_derived
from ridge.core.wording.equation import Equation, word_equation, write_symbols
from ridge.core.wording.families import parameter_meaning
from ridge.core.wording.interpolation import NO_R_SQUARED, beyond_interpolation, how_it_goes, interpolation_name
from ridge.core.wording.judgement import how_well, list_statistics
from ridge.core.wording.limits import level_text, limits_text, what_plus_minus_is, with_interval
from ridge.core.wording.method import method_sentence, rounding_cost, rounding_sentence
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.pieces import word_piece
from ridge.core.wording.readings import word_refusal
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.core.wording.sense import word_sense
from ridge.studies.analysis.curves import StretchOut, drawn, finite
from ridge.studies.analysis.fits import Fitted, fit_one
from ridge.studies.content.course import Course
from ridge.studies.content.readings import Status, Table
from ridge.studies.content.state import StudyState
from ridge.studies.content.wanted import hand_values
from ridge.studies.words.fit_schemas import (
    BoundsOut,
    CautionOut,
    CheckOut,
    DecimalsOut,
    DerivedOut,
    DifferenceOut,
    FitOut,
    FittedFit,
    GripOut,
    HandFit,
    HandleOut,
    InterpolationFit,
    KnownFit,
    OtherWayOut,
    ParameterOut,
    PieceOut,
    RefusedFit,
    StatisticOut,
)
from ridge.studies.words.fit_settings import settings, ways
from ridge.studies.words.remedies import OTHER_MODEL_HELPS, for_caution, for_refusal

PIECES_SHOWN = 60
COMPARED = 121
BY_HAND_DIGITS = 4


def described(one: Fitted, table: Table | None = None) -> dict[str, Any]:
    """What a wanted fit is asked to be; as ``DescribedFit``. Without the table its model and its readings are not looked at."""
    wanted, entry = one.wanted, entry_of(one.wanted.family, one.wanted.options)
    form = write_symbols(one.model, table.naming) if table is not None and one.model is not None else ("", "")
    return {
        "letter": wanted.letter,
        "family": wanted.family if entry else "unknown",
        "form": entry.key if entry else "",
        "settings": settings(one),
        "ways": ways(one, table) if table is not None else [],
        "name": name_of(one),
        "label": wanted.name,
        "hidden": wanted.hidden,
        "by_hand": wanted.by_hand,
        "follows": list(wanted.follows),
        "options": one.options,
        "fixed": dict(wanted.fixed),
        "bounds": [BoundsOut(name=name, low=low, high=high) for name, (low, high) in wanted.bounds.items()],
        "x_range": StretchOut(low=wanted.x_range[0], high=wanted.x_range[1]) if wanted.x_range else None,
        "range_text": _range_text(one, table.naming) if table is not None else "",
        "series": wanted.series,
        "started": bool(wanted.values) and not wanted.by_hand,
        "least_squares_in": wanted.method,
        "form_text": form[0],
        "form_latex": form[1],
    }


def equation_of(one: Fitted, fit: Fit, naming: Naming) -> Equation:
    """The equation with as many digits as it needs; numbers that a hand has set need no more than ``BY_HAND_DIGITS``."""
    return word_equation(fit, naming, given_digits=BY_HAND_DIGITS if one.kind == "hand" else None)


def _range_text(one: Fitted, naming: Naming) -> str:
    said = []
    if one.wanted.x_range is not None:
        said.append(f"Only {naming.x} from {naming.x_span(*one.wanted.x_range)} is used.")
    if senses := [text for text in (word_sense(naming, "x"), word_sense(naming, "y")) if text]:
        said.append(f"The curve ends where values make no sense any more: {'; '.join(senses)}.")
    return " ".join(said)


def failed(one: Fitted) -> RefusedFit:
    """A fit that failed in Ridge itself; without reading it further."""
    return RefusedFit(**described(one), refusal=one.refusal, refused_rows=[], refused_at=[], actions=[], checklist=[])


def word_fitted(one: Fitted, table: Table, state: StudyState, *, refits: float) -> FitOut:
    """What came of one wanted fit, in words. ``refits``: what those may cost that ± is held against."""
    if one.interpolation is not None:
        return _interpolation(one, one.interpolation, table)
    if one.fit is None:
        return _refused(one, table)
    whole = with_shared(one.fit, one.moved)
    limits = intervals_with_shared(intervals(one.fit, state.level, refits=refits), one.fit, whole, state.level)
    equation = equation_of(one, one.fit, table.naming)
    about = _computed(one, one.fit, whole, table, state.level, limits, equation)
    if one.kind == "hand":
        return _by_hand(one, table, about, equation, state.course)
    return KnownFit(**about) if one.kind == "known" else _fitted(one, one.fit, table, about, equation, state.course)


def _refused(one: Fitted, table: Table) -> RefusedFit:
    if one.error is None:
        return failed(one).model_copy(update=described(one, table))
    error, naming = one.error, table.naming
    return RefusedFit(
        **described(one, table),
        refusal=word_refusal(error, one.readings or table.readings, naming, name_of(one)),
        refused_rows=list(error.rows[:1000]) if isinstance(error, UndefinedAt | RepeatedX) else [],
        refused_at=[error.position, error.position + error.length] if isinstance(error, FormulaError) else [],
        actions=for_refusal(one, naming),
        checklist=_checklist(one, table),
    )


def _checklist(one: Fitted, table: Table) -> list[CheckOut]:
    """Of an own formula, where something is wrong with it."""
    if one.wanted.family != Formula.family or not one.wanted.options.get("text"):
        return []
    checks = failing_checks(one.readings or table.readings, one.model, one.error, one.fit, table.naming)
    return [CheckOut(**vars(check)) for check in checks]


def _fitted(
    one: Fitted, fit: Fit, table: Table, about: dict[str, Any], safe: Equation, course: Course | None
) -> FittedFit:
    naming = table.naming
    in_y = fit_one(table, replace(one.wanted, method="y")).fit if one.wanted.method == "logarithms" else None
    decimals = one.wanted.decimals
    if course is not None and course.decimals is not None:
        decimals = dict.fromkeys(fit.model.free_names, course.decimals)
    shown, cost = _with_decimals(fit, naming, safe, decimals)
    return FittedFit(
        **about | {"equation_text": shown.text, "equation_latex": shown.latex},
        decimals=_decimals(fit, naming, shown, safe),
        rounding_cost=cost,
        other_way=_other_way(in_y, naming),
        checklist=_checklist(one, table) if fit.held else [],
    )


def _by_hand(one: Fitted, table: Table, about: dict[str, Any], equation: Equation, course: Course | None) -> HandFit:
    best = fit_one(table, replace(one.wanted, by_hand=False, values={})).fit
    return HandFit(
        **about,
        handles=handles_of(one, table, equation, course),
        grips=grips_of(one),
        least_rss=significant(best.statistics.residual_sum_of_squares, 4).text if best else "",
    )


def handles_of(one: Fitted, table: Table, equation: Equation, course: Course | None) -> list[HandleOut]:
    """What can be turned of a curve that is set by hand, in the spans of the course where it has some."""
    assert one.model is not None and one.readings is not None
    naming, values = table.naming, hand_values(one.readings, one.model, one.wanted)
    units = naming.parameter_units(one.model)
    spans = {name: course.span_of(one.wanted.family, one.wanted.options, name) for name in values} if course else {}
    return [
        HandleOut(
            name=handle.name,
            symbol=naming.letter(handle.name),
            unit=units[handle.name],
            value=handle.value,
            text=_as_in_equation(handle.name, handle.value, equation),
            low=span.low if span else handle.low,
            high=span.high if span else handle.high,
            step=span.step if span else handle.step,
            of_course=span is not None,
            does=what_it_does(one.model, handle, naming),
        )
        for handle in handles(one.readings, one.model, values)
        for span in (spans.get(handle.name),)
    ]


def grips_of(one: Fitted) -> list[GripOut]:
    """Where a curve that is set by hand can be taken hold of."""
    assert one.model is not None and one.readings is not None
    values = hand_values(one.readings, one.model, one.wanted)
    return [GripOut(**vars(place)) for place in places(one.readings, one.model, values)]


def _interpolation(one: Fitted, curve: Interpolation, table: Table) -> InterpolationFit:
    low, high = curve.readings.measured_range
    pieces = curve.pieces
    return InterpolationFit(
        **described(one, table),
        measured=StretchOut(low=low, high=high),
        how_well=how_it_goes(curve),
        method=f"{NO_R_SQUARED} {beyond_interpolation(curve)}",
        cautions=_cautions(one, table, table.naming),
        pieces=[PieceOut(**vars(word_piece(piece, table.naming))) for piece in pieces[:PIECES_SHOWN]],
        pieces_more=max(0, len(pieces) - PIECES_SHOWN),
    )


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
        r_squared="–" if r_squared is None else share(r_squared),
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
        found = [*_better_elsewhere(one, table), *_series_differ(one.fit, table), *findings_of(one.fit), *of_limits]
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


def _series_differ(fit: Fit, table: Table) -> list[Finding]:
    """Whether series that are fitted together lie at different heights about the curve."""
    apart = groups_apart(fit, table.series.indices) if table.series else None
    if apart is None or table.series is None or apart.p >= ALARM:
        return []
    names = table.series.names
    sides = {
        "above": join([names[number] for number, off in apart.offsets.items() if off > 0]),
        "below": join([names[number] for number, off in apart.offsets.items() if off <= 0]),
    }
    return [
        Finding("series-differ", facts={"p": apart.p}, words={"curve": fit.model.graph, "first": names[0], **sides})
    ]


def _better_elsewhere(one: Fitted, table: Table) -> list[Finding]:
    """Whether a search that began from given values ended in a minimum that is not the best."""
    if not one.wanted.values or one.fit is None or one.fit.model.linear_form is not None:
        return []
    best = fit_one(table, replace(one.wanted, values={})).fit
    if best is None or one.fit.statistics.residual_sum_of_squares == 0:
        return []
    ratio = best.statistics.residual_sum_of_squares / one.fit.statistics.residual_sum_of_squares
    return [Finding("better-elsewhere", facts={"ratio": ratio})] if ratio < 0.999 else []


def _method(one: Fitted, fit: Fit, table: Table) -> str:
    said = method_sentence(fit, table.naming, table.count(Status.ASIDE), by_hand=one.kind == "hand")
    # Nothing was weighted by them where nothing was fitted.
    if fit.least_squares_in == "given":
        return said
    return " ".join(part for part in (said, table.how_uncertain, _shared(one, fit, table.naming)) if part)


def _shared(one: Fitted, fit: Fit, naming: Naming) -> str:
    """What all readings share of their uncertainty, and what the limits would be without it."""
    if not one.shared:
        return ""
    what = join([error.name for error in one.shared])
    said = f"All readings share a part of their uncertainty ({what}). It weighs none of them"
    if one.not_moved:
        return f"{said}, and is in no limits here, since readings moved by it cannot be fitted: {one.not_moved}"
    if not one.moved:
        return f"{said}."
    units = naming.parameter_units(fit.model)
    alone = [
        f"{naming.letter(name)} ± {with_unit(significant(parameter.standard_error, 2).text, units[name])}"
        for name, parameter in fit.parameters.items()
        if not parameter.fixed and parameter.standard_error
    ]
    scatter = f" The scatter alone would give {join(alone)}." if alone else ""
    return f"{said}, but moves them together, and is in the uncertainties of parameters and answers.{scatter}"


def _computed(
    one: Fitted, fit: Fit, whole: Fit, table: Table, level: float, limits: Mapping[str, Interval], equation: Equation
) -> dict[str, Any]:
    """Everything said of a curve with parameters; as ``ComputedFit``. ``whole``: the fit with what all readings share in it."""
    naming = table.naming
    low, high = fit.readings.measured_range
    units = naming.parameter_units(fit.model)
    parameters = [_word_parameter(whole, name, units[name], naming, level, limits.get(name)) for name in fit.parameters]
    estimated = any(parameter.uncertainty for parameter in parameters)
    unequal = any(parameter.asymmetric for parameter in parameters)
    return {
        **described(one, table),
        "measured": StretchOut(low=low, high=high),
        "how_well": how_well(fit, naming),
        "method": _method(one, fit, table),
        "cautions": _cautions(one, table, naming, [*asymmetric(fit, limits, level), *unchecked(limits)]),
        "equation_text": equation.text,
        "equation_latex": equation.latex,
        "safe_text": equation.text,
        "safe_latex": equation.latex,
        "rounding": "" if fit.least_squares_in == "given" else rounding_sentence(fit, naming, equation),
        "parameters": parameters,
        "plus_minus": what_plus_minus_is(level, limits_too=unequal) if estimated else "",
        "derived": [DerivedOut(**vars(text)) for text in word_derived(whole, naming, limits, level)],
        **how_near(fit, naming),
        "statistics": [StatisticOut(**vars(text)) for text in list_statistics(fit, naming)],
        "residuals": drawn(seen_residuals(fit)),
        "refining": any(one.method == "unchecked" for one in limits.values()),
    }


def how_near(fit: Fit, naming: Naming) -> dict[str, Any]:
    """R², typical miss and its number; as in ``ComputedFit``."""
    s, r_squared = typical_miss(fit), in_y(fit).r_squared
    return {
        "r_squared": "–" if r_squared is None else share(r_squared),
        "typical_miss": "–" if s is None or fit.statistics.exact else naming.y_with_unit(significant(s, 3).text),
        "deviation": None if s is None or not math.isfinite(s) else s,
    }


def _with_decimals(fit: Fit, naming: Naming, safe: Equation, wanted: Mapping[str, int]) -> tuple[Equation, str]:
    """The equation with the decimals of the course, and what they cost."""
    known = {name: places for name, places in wanted.items() if name in fit.model.free_names}
    if not known:
        return safe, ""
    shown = word_equation(fit, naming, decimals={**safe.decimals, **known})
    return shown, rounding_cost(fit, naming, shown, safe)


def _decimals(fit: Fit, naming: Naming, shown: Equation, safe: Equation) -> list[DecimalsOut]:
    return [
        DecimalsOut(
            name=name,
            symbol=naming.letter(name),
            shown=shown.decimals[name],
            safe=safe.decimals[name],
            significant=-1 - place(fit.parameters[name].value),
        )
        for name in fit.model.free_names
    ]


def _t_test(parameter: Parameter) -> str:
    """``t = 3.2, p = 0.02``: against zero; empty where it is not tested."""
    if parameter.t is None or parameter.p_value is None:
        return ""
    return f"t = {significant(parameter.t, 3).text}, {p_text(parameter.p_value)}"


def _word_parameter(
    result: Fit, name: str, unit: str, naming: Naming, level: float, limits: Interval | None
) -> ParameterOut:
    parameter = result.parameters[name]
    error = None if result.statistics.exact else parameter.standard_error
    rounded = round_with_uncertainty(parameter.value, error)
    relative = parameter.relative_error
    between, text, unequal = "", rounded.text, False
    if error and limits is not None and limits.method != "none":
        between = limits_text(limits.low, limits.high, value=parameter.value)
        unequal = limits.method == "profile" or parameter.logarithm is not None
        if limits.method == "unchecked":
            between = f"{between} (refining)"
    if unequal and limits is not None:
        # One ± would hide that the limits are not equally far.
        text = with_interval(parameter.value, limits.low, limits.high, level)
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
        interval=f"{level_text(level)}: {between}" if between else "",
        limits=between,
        asymmetric=unequal,
        t="" if parameter.t is None else significant(parameter.t, 3).text,
        p="" if parameter.p_value is None else probability(parameter.p_value),
        t_test=_t_test(parameter),
        full=full(parameter.value),
        full_error=full(error) if error else "",
        number=parameter.value,
        standard_error=error,
    )


def _as_in_equation(name: str, value: float, equation: Equation) -> str:
    """The value of a handle with the digits that the equation shows."""
    decimals = equation.decimals.get(name)
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
