"""Cautions in words: what was found, then what to do."""

from __future__ import annotations

import re

import numpy as np

from ridge.core.judging.significance import CHECK, WAVE_CHECK
from ridge.core.numerals import capital, count_word, join, name_rows, p_text, share, significant
from ridge.core.results.finding import Caution, Finding
from ridge.core.wording.limits import level_text, limits_text
from ridge.core.wording.naming import Naming, parameter_called


def word_caution(finding: Finding, naming: Naming) -> Caution:
    """The finding in words, with the study's symbols."""
    message, remedy = _WORDS[finding.code](finding, naming)
    return Caution(finding.code, message, remedy, finding.rows)


def _p(finding: Finding, what: str = "p") -> str:
    return p_text(finding.facts["p"], what)


def _all_equal(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"All {naming.y} are equal: there is no variation to account for.",
        f"Add readings with other values of {naming.y}, or check that this is the column you meant.",
    )


def _curve(finding: Finding) -> str:
    return finding.words.get("curve", "line")


def _as_many_parameters(finding: Finding, _: Naming) -> tuple[str, str]:
    n, curve = int(finding.facts["n"]), _curve(finding)
    if not finding.facts["through"]:
        return (
            f"There are as many parameters as readings ({n}), so nothing tells how much they scatter; and the {curve} does not "
            "even go through all of them.",
            "Choose another model, and add readings.",
        )
    return (
        f"With {n} reading{'s' if n > 1 else ''} for {n} parameter{'s' if n > 1 else ''} the {curve} goes through every "
        "reading by construction, so nothing tells how well it fits.",
        f"Add readings: each one beyond these tests the {curve}.",
    )


def _exact(finding: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"The fit is exact: every reading lies on the {_curve(finding)} to the last digit.",
        f"Measured {naming.y} scatter as a rule. Check that they were not calculated from {naming.x}.",
    )


def _few(finding: Finding, _: Naming) -> tuple[str, str]:
    n, parameters = int(finding.facts["n"]), int(finding.facts["parameters"])
    return (
        f"{n} readings for {parameters} parameters: the uncertainties rest on very little.",
        f"Take at least {2 * parameters} readings before trusting R² or the limits.",
    )


def _far_off(finding: Finding, _: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'have unusually large residuals (outliers)' if many else 'has an unusually large residual (outlier)'}.",
        f"Check {'them' if many else 'it'} against the notebook. If {'they are mistakes' if many else 'it is a mistake'}, "
        f"set {'them' if many else 'it'} aside with the reason.",
    )


def _series(finding: Finding, _: Naming) -> tuple[str, str]:
    above, below = finding.words["above"], finding.words["below"]
    where = " and ".join(f"{names} {side}" for names, side in ((above, "above it"), (below, "below it")) if names)
    return (
        f"One {_curve(finding)} does not hold for all series ({_p(finding)}): {where}.",
        "Fit each series on its own, or find what differs between them.",
    )


def _decides(finding: Finding, _: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'are' if many else 'is'} highly influential: without "
        f"{'them' if many else 'it'} the {_curve(finding)} would change markedly.",
        f"Check {'them' if many else 'it'}, and take more readings nearby.",
    )


CYCLES = 2
"""Cycles over the measured range from which on a wave in the residuals is named rather than likeness of neighbours: a slower one may
be any wrong shape."""


ALTERNATING = 2.5
"""Readings per cycle below which residuals alternate rather than follow a wave."""


def _is_wave(finding: Finding) -> bool:
    """Return whether to name a wave rather than alike or alternating neighbours."""
    facts = finding.facts
    if facts["wave_p"] >= WAVE_CHECK:
        return False
    if facts["order_p"] >= CHECK:
        return True
    return facts["cycles"] >= CYCLES and not (facts["many"] and facts["per_cycle"] < ALTERNATING)


def _patterned(finding: Finding, naming: Naming) -> tuple[str, str]:
    bend, curve = finding.facts["bend"], _curve(finding)
    if finding.facts["bend_p"] < CHECK and bend:
        ends, middle = ("above", "below") if bend > 0 else ("below", "above")
        found = f"The residuals are curved: {ends} the {curve} at both ends, {middle} it in the middle."
    elif finding.facts["bend_p"] < CHECK and curve == "constant":
        found = f"{naming.y} changes with {naming.x}: the residuals of the constant follow a trend."
    elif finding.facts["bend_p"] < CHECK:
        found = f"The residuals of the {curve} are still curved."
    elif _is_wave(finding):
        period = naming.x_with_unit(significant(finding.facts["period"], 2, strip=True).text)
        return (
            f"The residuals follow a wave with a period of about {period} ({p_text(finding.facts['wave_p'])}).",
            "A cycle is missing in the model. Try a periodic model, or add a periodic term.",
        )
    elif finding.facts["many"]:
        return (
            "Neighbouring residuals alternate more than expected by chance.",
            "Something may alternate that is not in the model: two instruments or two ways of reading in turn, or a cycle as "
            "fast as the readings. Add its column, or try a periodic model.",
        )
    else:
        found = "Neighbouring residuals are more alike than expected by chance."
    if curve == "line":
        return (
            found,
            "There is evidence that a straight line is not enough. Try a curved model, or fit a shorter range.",
        )
    return (
        found,
        "There is evidence that this model lacks something. Compare another one, add a term, or fit a shorter range.",
    )


def _copied(finding: Finding, naming: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'have' if many else 'has'} the same {naming.x} and {naming.y} as earlier rows, as if "
        "pasted twice. Copies make the uncertainties too small.",
        "Delete the copies. Keep them only if each was measured anew.",
    )


def _coarse(finding: Finding, naming: Naming) -> tuple[str, str]:
    step, scatter = (
        naming.y_with_unit(significant(finding.facts[name], digits, strip=True).text)
        for name, digits in (("step", 6), ("scatter", 2))
    )
    rounding = naming.y_with_unit(significant(finding.facts["step"] / np.sqrt(12), 2).text)
    return (
        f"{naming.y} is recorded in steps of {step}, but the residuals are typically {scatter}: most of what they show is rounding.",
        f"Record more digits if the instrument shows them. Otherwise include the rounding, {rounding}, in the uncertainty of {naming.y}.",
    )


def _end_of_range(finding: Finding, naming: Naming) -> tuple[str, str]:
    value, expected = (
        naming.y_with_unit(significant(finding.facts[name], 4, strip=True).text) for name in ("value", "expected")
    )
    which = "largest" if finding.facts["top"] else "smallest"
    return (
        f"{capital(name_rows(finding.rows))} all have the {which} value, {value}, while the {_curve(finding)} through the others goes on to "
        f"{expected}: the instrument may have reached the end of its range, or {naming.y} levels off.",
        "Exclude these rows and measure them in a wider range, or fit a model that levels off.",
    )


def _two_groups(finding: Finding, naming: Naming) -> tuple[str, str]:
    low, high = (naming.y_with_unit(significant(finding.facts[name], 2).text) for name in ("low", "high"))
    in_turn = ", in turn" if finding.facts["in_turn"] else ""
    few, all_of = len(finding.rows), int(finding.facts["of"])
    return (
        f"The residuals fall into two groups{in_turn} ({_p(finding)}), around {low} and {high}; the smaller has {few} of {all_of} readings.",
        "Two samples, instruments or observers may be mixed. Mark the series and fit each.",
    )


def _few_places(finding: Finding, naming: Naming) -> tuple[str, str]:
    places = count_word(int(finding.facts["places"]))
    return (
        f"The readings lie at only {places} different {naming.x}, as many as there are parameters: nothing tests the shape of the "
        f"{_curve(finding)}.",
        f"Take readings at other {naming.x}.",
    )


def _drifts(finding: Finding, naming: Naming) -> tuple[str, str]:
    change = finding.facts["change"]
    size = naming.y_with_unit(significant(abs(change), 2).text)
    return (
        f"The residuals {'rise' if change > 0 else 'fall'} by about {size} from the first row to the last ({_p(finding)}).",
        "If the rows are in order of measurement, something drifted: check the zero of the instrument, and repeat an early reading.",
    )


def _spread(finding: Finding, naming: Naming) -> tuple[str, str]:
    grows = finding.facts["spread"] > 0
    return (
        f"The scatter {'grows' if grows else 'shrinks'} with {naming.y}: readings of {'large' if grows else 'small'} {naming.y} are less certain.",
        f"Give each reading its uncertainty of {naming.y}, or weights; otherwise the limits are too {'wide' if grows else 'narrow'} at small {naming.y} and too {'narrow' if grows else 'wide'} at large.",
    )


def _constant(finding: Finding, naming: Naming) -> tuple[str, str]:
    allowing = ", which allows for the search" if finding.facts["searched"] else ""
    if finding.facts["patterned"]:
        return _does_otherwise(finding, naming, f"{_p(finding)}{allowing}")
    r_squared = finding.facts.get("r_squared")
    if r_squared is not None and r_squared <= 0:
        return (
            f"The {_curve(finding)} fits worse than the mean of {naming.y} (R² = {share(r_squared)}). F and its p compare it with "
            f"{naming.y} = 0, not with the mean.",
            "Add a constant term, unless theory excludes one, or choose another model.",
        )
    about = f" about the mean; F and its p compare it with {naming.y} = 0" if r_squared is not None else ""
    return (
        f"No significant evidence that the {_curve(finding)} is better than a constant ({_p(finding)}{allowing}{about}), so "
        f"none that {naming.y} depends on {naming.x} in this way.",
        f"Use a constant, or take more readings, or readings over a wider range of {naming.x}.",
    )


def _highest_term(finding: Finding, naming: Naming) -> tuple[str, str]:
    degree = int(finding.facts["degree"])
    return (
        f"The term in {naming.x} to the power {degree} is not significantly different from zero ({_p(finding)}).",
        f"Degree {degree - 1} may do as well: compare the two.",
    )


def _bound(finding: Finding, naming: Naming) -> tuple[str, str]:
    name, value = (
        parameter_called(finding.words["name"], naming),
        significant(finding.facts["value"], 6, strip=True).text,
    )
    return (
        f"At the best fit {name} lies at its bound {value}. It is fixed there and has no uncertainty of its own.",
        "Widen the bound if the model allows it; the best fit lies beyond.",
    )


def _redundant(finding: Finding, naming: Naming) -> tuple[str, str]:
    names = [parameter_called(name, naming) for name in finding.facts]
    values = [significant(value, 6, strip=True).text for value in finding.facts.values()]
    combination = re.sub(r"[a-z_]{2,}", lambda name: naming.letter(name[0]), finding.words["combination"])
    known = f"; the readings determine only {combination}" if combination else ""
    fixed = join([f"{name} is fixed at {value}" for name, value in zip(names, values, strict=True)])
    return (
        f"Some parameters have the same effect{known}. Here {fixed}; the others are fitted.",
        f"Fix {join(names)}, or write the formula without {'it' if len(names) == 1 else 'them'}. The curve stays the same.",
    )


def _cut_short(_: Finding, __: Naming) -> tuple[str, str]:
    return (
        "The fit stopped before converging; this is the best curve found so far.",
        "Give starting values, fix a parameter, or simplify the formula.",
    )


def _undefined(finding: Finding, naming: Naming) -> tuple[str, str]:
    x = naming.x_with_unit(significant(finding.facts["x"], 3, strip=True).text)
    return (
        f"Inside the measured range the model has no value, at {naming.x} = {x} for instance.",
        "Fit only the part of the range where it has one, or choose another model.",
    )


def _swings(finding: Finding, naming: Naming) -> tuple[str, str]:
    off = naming.y_with_unit(significant(finding.facts["outside"], 2).text)
    return (
        f"Between the readings the curve swings by up to {off} beyond all of them.",
        "Do not read values off it there. Take readings there, or choose a model with fewer bends.",
    )


def _pole(finding: Finding, naming: Naming) -> tuple[str, str]:
    x = naming.x_with_unit(significant(finding.facts["x"], 3, strip=True).text)
    more = f" and at {count_word(int(finding.facts['number']) - 1)} more" if finding.facts["number"] > 1 else ""
    return (
        f"At {naming.x} = {x}{more}, inside the measured range, the curve runs off to infinity.",
        "Fit only the readings on one side of it, or choose another model.",
    )


def _part_of_a_cycle(finding: Finding, naming: Naming) -> tuple[str, str]:
    until = naming.x_with_unit(significant(finding.facts["until"], 2, strip=True).text)
    return (
        f"The readings span only {significant(finding.facts['cycles'], 2).text} of a cycle: period, height and midline rest on a "
        "part of it that was not measured.",
        f"Take readings over a whole cycle, up to about {naming.x} = {until}, or fix what is known of it.",
    )


def _alias(finding: Finding, naming: Naming) -> tuple[str, str]:
    apart = naming.x_with_unit(significant(finding.facts["apart"], 2, strip=True).text)
    return (
        "There are fewer than two readings a cycle: a slower wave may fit as well.",
        f"Take readings no more than {apart} apart, or bound the frequency by what is known of it.",
    )


def _faster(finding: Finding, naming: Naming) -> tuple[str, str]:
    period = naming.x_with_unit(significant(finding.facts["period"], 3).text)
    return (
        f"A faster wave, with a period of about {period}, fits these readings too: nearly even spacing cannot tell them apart.",
        "Take a few readings at other spacings, or bound the frequency by what is known of it.",
    )


def _level(finding: Finding, naming: Naming) -> tuple[str, str]:
    level, left = (naming.y_with_unit(significant(finding.facts[name], 2).text) for name in ("level", "left"))
    at = finding.facts["at"]
    until = (
        f", up to about {naming.x} = {naming.x_with_unit(significant(at, 2, strip=True).text)}"
        if np.isfinite(at)
        else ""
    )
    return (
        f"The readings never come near the level {naming.y} = {level} that this curve supposes: the nearest is {left} from it.",
        f"Take readings farther out{until}, fix the level at what is known of it, or use a model without one.",
    )


def _step(finding: Finding, naming: Naming) -> tuple[str, str]:
    low, high = (naming.x_with_unit(significant(finding.facts[end], 3, strip=True).text) for end in ("low", "high"))
    return (
        f"Nearly all that the curve does lies between two neighbouring readings, {naming.x} = {low} and {high}: how steep it is "
        "there, no reading says.",
        f"Take readings between {low} and {high}.",
    )


def _in_logarithms(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"Least squares was done in logarithms: it minimises relative residuals of {naming.y}. The statistics and tests listed are those of the straight line there; R² and typical miss beside the name of the model are those of the curve in {naming.y}.",
        f"Compare with least squares in {naming.y}, which gives other parameters.",
    )


def _left_out(finding: Finding, naming: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'are' if many else 'is'} unusable: {naming.x}, {naming.y}, an uncertainty or a "
        "weight there is missing, infinite, or not positive where it must be.",
        f"Complete {'them' if many else 'it'}, or set {'them' if many else 'it'} aside.",
    )


def _assumed(finding: Finding, _: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'were' if many else 'was'} not measured but assumed.",
        f"See how far the fit rests on {'them' if many else 'it'}: set {'them' if many else 'it'} aside for a moment.",
    )


def _does_otherwise(finding: Finding, naming: Naming, p: str) -> tuple[str, str]:
    """The same where the residuals show that there is more than a constant."""
    return (
        f"No significant evidence that the {_curve(finding)} is better than a constant ({p}), but the pattern of the residuals shows that {naming.y} "
        f"depends on {naming.x} in another way.",
        "Choose another model.",
    )


def _slope(finding: Finding, naming: Naming) -> tuple[str, str]:
    if finding.facts["patterned"]:
        return _does_otherwise(finding, naming, _p(finding))
    return (
        f"The slope is not significantly different from zero ({_p(finding)}): no significant evidence that {naming.y} depends on "
        f"{naming.x}.",
        f"Use a constant, or take more readings, or readings over a wider range of {naming.x}.",
    )


def _errors(finding: Finding, naming: Naming) -> tuple[str, str]:
    reduced = finding.facts["reduced"]
    size = "more" if reduced > 1 else "less"
    return (
        f"The readings scatter {size} than the given uncertainties of {naming.y} say "
        f"(reduced χ² = {significant(reduced, 2).text}, about 1 expected; {_p(finding)}).",
        "Check the uncertainties, or say that they are known only relative to each other."
        + (" A model with more curvature may also be needed." if reduced > 1 else ""),
    )


def _near_zero(finding: Finding, naming: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{capital(name_rows(finding.rows))} {'dominate' if many else 'dominates'} the fit: a per cent of a fitted {naming.y} near "
        "zero is next to no uncertainty.",
        f"Give the uncertainty of {naming.y} a constant part too, such as 0.1; 5 %.",
    )


def _x_errors(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"The uncertainties of {naming.x} are not used by this fit, which minimises distances in {naming.y}.",
        f"Make sure that they are small beside those of {naming.y}, seen through the slope.",
    )


def _many_nodes(finding: Finding, _: Naming) -> tuple[str, str]:
    nodes, even = int(finding.facts["nodes"]), bool(finding.facts["even"])
    return (
        f"One polynomial through {nodes} {'equally spaced ' if even else ''}readings tends to swing wildly near the ends.",
        "Use a spline or a monotone curve, or fit a polynomial of lower degree.",
    )


def _averaged(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"Several {naming.y} at one {naming.x} were replaced by their mean.",
        "The curve goes through the means, not through each reading.",
    )


def _no_residuals(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        "An interpolation goes through every reading, so it has no residuals, no R² and no uncertainty "
        "to judge it by, and it follows the scatter too.",
        f"Use it between readings that scatter little. To judge a curve or to go beyond the readings, fit a model of {naming.y}.",
    )


def _better_elsewhere(finding: Finding, naming: Naming) -> tuple[str, str]:
    share_left = finding.facts["ratio"]
    return (
        "Least squares went downhill from the values given and stopped at the nearest minimum; another one has only "
        f"{significant(share_left * 100, 2).text}\u00a0% of its sum of squared residuals.",
        "Use the better fit, unless you know that the parameters belong here.",
    )


def _asymmetric(finding: Finding, naming: Naming) -> tuple[str, str]:
    names = [name for name in finding.words if name != "curve"]
    facts = finding.facts
    limits = [limits_text(facts[f"{name} low"], facts[f"{name} high"], value=facts[f"{name} value"]) for name in names]
    told = "; ".join(f"{naming.letter(name)} {one}" for name, one in zip(names, limits, strict=True))
    return (
        f"± would be misleading here: the {_curve(finding)} is far from linear in its parameters, so their intervals are not "
        f"symmetric. {level_text(finding.facts['level'])} profile limits: {told}.",
        'Quote these limits; the band on the plot is only approximate. "Where to measure next" on a parameter shows where more '
        "readings help most.",
    )


def _unchecked(finding: Finding, naming: Naming) -> tuple[str, str]:
    names = join([parameter_called(name, naming) for name in finding.words if name != "curve"])
    return (
        f"The limits of {names} are by standard errors, which may be off: the refits for profile limits come to no end within the work allowed.",
        "Fix a parameter, choose a simpler model, or judge by resampling.",
    )


_WORDS = {
    "limits-unchecked": _unchecked,
    "asymmetric": _asymmetric,
    "faster-wave-fits": _faster,
    "relative-errors-near-zero": _near_zero,
    "better-elsewhere": _better_elsewhere,
    "y-all-equal": _all_equal,
    "as-many-parameters-as-readings": _as_many_parameters,
    "exact-fit": _exact,
    "few-readings": _few,
    "series-differ": _series,
    "far-off": _far_off,
    "one-reading-decides": _decides,
    "patterned-residuals": _patterned,
    "spread-changes": _spread,
    "copied-rows": _copied,
    "coarse-step": _coarse,
    "end-of-range": _end_of_range,
    "two-groups": _two_groups,
    "few-places": _few_places,
    "drifts": _drifts,
    "slope-not-significant": _slope,
    "no-better-than-constant": _constant,
    "highest-term-not-needed": _highest_term,
    "at-bound": _bound,
    "not-identifiable": _redundant,
    "search-cut-short": _cut_short,
    "undefined-inside": _undefined,
    "swings": _swings,
    "less-than-a-cycle": _part_of_a_cycle,
    "pole-inside": _pole,
    "level-not-near": _level,
    "step-between-readings": _step,
    "fewer-than-two-readings-a-cycle": _alias,
    "in-logarithms": _in_logarithms,
    "many-nodes-one-polynomial": _many_nodes,
    "repeats-averaged": _averaged,
    "no-residuals": _no_residuals,
    "rows-left-out": _left_out,
    "assumed-readings": _assumed,
    "errors-do-not-match": _errors,
    "x-errors-not-used": _x_errors,
}
