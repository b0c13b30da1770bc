"""Cautions in words: what was found, then what to do."""

from __future__ import annotations

from ridge.core.judging.cautions import Caution, Finding
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import name_rows, probability, significant


def word_caution(finding: Finding, naming: Naming) -> Caution:
    """The finding in words, with the study's symbols."""
    message, remedy = _WORDS[finding.code](finding, naming)
    return Caution(finding.code, message, remedy, finding.rows)


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _all_equal(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"All {naming.y} are equal: there is no variation for a line to account for.",
        f"Add readings with other values of {naming.y}, or check that this is the column you meant.",
    )


def _as_many_parameters(finding: Finding, _: Naming) -> tuple[str, str]:
    n = int(finding.facts["n"])
    return (
        f"With {n} reading{'s' if n > 1 else ''} for {n} parameter{'s' if n > 1 else ''} the line goes through every "
        "reading by construction, so nothing tells how well it fits.",
        "Add readings: each one beyond these tests the line.",
    )


def _exact(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        "The fit is exact: every reading lies on the line to the last digit.",
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
        f"{_capital(name_rows(finding.rows))} {'lie' if many else 'lies'} much farther off than the other readings scatter.",
        f"Check {'them' if many else 'it'} against the notebook. If {'they are slips' if many else 'it is a slip'}, "
        f"set {'them' if many else 'it'} aside with the reason.",
    )


def _decides(finding: Finding, _: Naming) -> tuple[str, str]:
    many = len(finding.rows) > 1
    return (
        f"{_capital(name_rows(finding.rows))} {'decide' if many else 'decides'} the fit: without "
        f"{'them' if many else 'it'} the line would move clearly.",
        f"Check {'them' if many else 'it'}, and take more readings nearby.",
    )


def _patterned(finding: Finding, _: Naming) -> tuple[str, str]:
    bend = finding.facts["bend"]
    if finding.facts["bend_p"] < 0.01 and bend:
        ends, middle = ("above", "below") if bend > 0 else ("below", "above")
        found = f"The readings bend away from the line: {ends} it at both ends, {middle} it in the middle."
    else:
        found = "The residuals keep to one side for long stretches instead of changing sign at random."
    return found, "A straight line is not the whole story here. Look for a curved model, or fit a shorter range."


def _slope(finding: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"The slope is not told apart from zero (p = {probability(finding.facts['p'])}): "
        f"these readings do not show that {naming.y} depends on {naming.x}.",
        f"Take more readings, or readings over a wider range of {naming.x}, before calling it a law.",
    )


def _errors(finding: Finding, naming: Naming) -> tuple[str, str]:
    reduced = finding.facts["reduced"]
    size = "more" if reduced > 1 else "less"
    return (
        f"The readings scatter {size} than the given uncertainties of {naming.y} say "
        f"(reduced χ² = {significant(reduced, 2).text}, about 1 expected).",
        "Check the uncertainties, or say that they are known only relative to each other."
        + (" A model with a bend may also be needed." if reduced > 1 else ""),
    )


def _x_errors(_: Finding, naming: Naming) -> tuple[str, str]:
    return (
        f"The uncertainties of {naming.x} are not used by this fit, which minimises distances in {naming.y}.",
        f"Make sure that they are small beside those of {naming.y}, seen through the slope.",
    )


_WORDS = {
    "y-all-equal": _all_equal,
    "as-many-parameters-as-readings": _as_many_parameters,
    "exact-fit": _exact,
    "few-readings": _few,
    "far-off": _far_off,
    "one-reading-decides": _decides,
    "patterned-residuals": _patterned,
    "slope-not-told-from-zero": _slope,
    "errors-do-not-match": _errors,
    "x-errors-not-used": _x_errors,
}
