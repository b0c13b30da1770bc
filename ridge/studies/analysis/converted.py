"""An answer in another unit than that of its column: every number of it multiplied, the places on the plot left where they are."""

from __future__ import annotations

from dataclasses import replace

from ridge.core.carrying.unit_algebra import factor_between, has_zero_of_its_own
from ridge.core.predicting.features import Quantity
from ridge.core.wording.naming import Naming
from ridge.exchange.cells import CLOCK_UNITS
from ridge.studies.analysis.answered import Answered, AreaBetween, SlopeAtX, SolutionsAtY, ValueAtX


def unit_of_answer(found: Answered, naming: Naming) -> str:
    """The unit that it has by itself; empty where there is none, or where it holds several things."""
    match found:
        case ValueAtX():
            return naming.y_unit
        case SolutionsAtY():
            return naming.x_unit
        case SlopeAtX():
            return naming.unit(-1, 1)
        case AreaBetween():
            return naming.unit(1, 1)
    return ""


def factor_into(found: Answered, unit: str, naming: Naming) -> float | None:
    """By what the numbers of an answer are multiplied to be in ``unit``; None where it cannot be converted into that."""
    own = unit_of_answer(found, naming)
    if isinstance(found, SolutionsAtY) and any(one.touches for one in found.solutions):
        return None  # what is said of it is said of the curve, in its own unit
    if not own or any(one in CLOCK_UNITS or has_zero_of_its_own(one) for one in (own, unit)):
        return None
    return factor_between(own, unit)


def converted(found: Answered, factor: float, unit: str, naming: Naming) -> tuple[Answered, Naming]:
    """The answer and the naming in which it is worded."""
    match found:
        case ValueAtX():
            one = found.prediction
            wide = replace(
                one, value=one.value * factor, standard_error=one.standard_error * factor, mean_low=one.mean_low * factor,
                mean_high=one.mean_high * factor, low=one.low * factor, high=one.high * factor,
            )  # fmt: skip
            low, high, why = naming.y_limits
            limits = (low * factor, high * factor, why)
            return replace(found, prediction=wide), replace(naming, y_unit=unit, y_limits=limits)
        case SolutionsAtY():
            solutions = tuple(
                replace(
                    one, value=one.value * factor, low=one.low * factor, high=one.high * factor,
                    standard_error=None if one.standard_error is None else one.standard_error * factor,
                )
                for one in found.solutions
            )  # fmt: skip
            low, high, why = naming.x_limits
            limits = (low * factor, high * factor, why)
            return replace(found, solutions=solutions), replace(naming, x_unit=unit, x_limits=limits)
        case SlopeAtX():
            slope = _times(found.tangent.slope, factor)
            return replace(found, tangent=replace(found.tangent, slope=slope), unit=unit), naming
        case AreaBetween():
            return replace(found, area=_times(found.area, factor), unit=unit), naming
    return found, naming


def _times(one: Quantity, factor: float) -> Quantity:
    error = None if one.standard_error is None else one.standard_error * factor
    return Quantity(one.value * factor, error, one.low * factor, one.high * factor)
