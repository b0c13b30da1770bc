"""From what a study asks to be fitted to the core's models and fits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import blake2b
from typing import Any

from ridge.core import Fit, fit
from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.models import FAMILIES, Model
from ridge.core.readings import Readings
from ridge.core.wording.naming import Naming
from ridge.studies.readings import Table
from ridge.studies.recent import Recent
from ridge.studies.state import FitState

SECONDS = 4.0
"""Time that one fit may take before the best so far is shown."""

OPTIONS: dict[str, dict[str, Any]] = {
    "polynomial": {"degree": 2},
    "exponential": {"level": False},
    "logarithmic": {"shift": False},
    "sinusoid": {"degrees": False, "form": "sin"},
    "logistic": {"level": False},
    "formula": {"text": "", "degrees": False},
}
"""What can be chosen within a family, with what holds when nothing is said."""

FAILED = "Ridge failed on these numbers. They are safe, and the failure is noted; it is our mistake, not yours."

MANY = 5000
_recent: Recent[object, Fit] = Recent(64)
_recent_large: Recent[object, Fit] = Recent(6)  # a fit of 100 000 readings holds some 10 MB

IN_LOGARITHMS = ("exponential", "power", "logarithmic")


def model_of(wanted: FitState, naming: Naming) -> Model:
    """The model that a state asks for. Raises OutsideSense, FormulaError."""
    options = OPTIONS.get(wanted.family, {}) | dict(wanted.options)
    if wanted.family == "formula":
        # A symbol that is no name in formulas (such as one with a space) leaves x for the variable.
        options["variable"] = naming.x if naming.x.replace("_", "").isalnum() and not naming.x[0].isdigit() else "x"
    return FAMILIES[wanted.family](**options).with_fixed(wanted.fixed)


@dataclass(frozen=True)
class Fitted:
    """What came of one wanted fit: the fit, or the error, or a refusal in words where Ridge itself failed."""

    wanted: FitState
    model: Model | None
    fit: Fit | None
    refusal: str = ""
    error: RidgeError | None = None
    readings: Readings | None = None

    @property
    def options(self) -> dict[str, Any]:
        """Every option of the family with the value that holds."""
        return OPTIONS.get(self.wanted.family, {}) | dict(self.wanted.options)


def fit_one(table: Table, wanted: FitState) -> Fitted:
    """One fit, or why there is none. Fits of the same readings are remembered."""
    model: Model | None = None
    readings: Readings | None = None
    try:
        model = chosen_model = model_of(wanted, table.naming)
        readings = used = readings_for(table, wanted)
        chosen = (
            wanted.family,
            repr(sorted(wanted.options.items())),
            repr(sorted(wanted.fixed.items())),
            wanted.method,
        )
        memory = _recent_large if len(readings) > MANY else _recent
        result = memory.get_or_make(
            (readings_key(used), *chosen, table.naming.x),
            lambda: fit(used, chosen_model, least_squares_in=wanted.method, seconds=SECONDS),
        )
        return Fitted(wanted, model, result, readings=readings)
    except RidgeError as error:
        return Fitted(wanted, model, None, error=error, readings=readings)


def fit_all(table: Table, wanted: Sequence[FitState]) -> list[Fitted]:
    """Every fit that a study asks for, the leading one first."""
    return [fit_one(table, one) for one in wanted]


def readings_key(readings: Readings) -> bytes:
    """A fingerprint of everything a fit depends on."""
    digest = blake2b(digest_size=16)
    for array in (
        readings.x,
        readings.y,
        readings.x_error,
        readings.y_error,
        readings.weight,
        readings.count,
        readings.included,
        readings.assumed,
    ):
        digest.update(b"-" if array is None else array.tobytes())
    digest.update(b"a" if readings.absolute_errors else b"r")
    return digest.digest()


def readings_for(table: Table, wanted: FitState) -> Readings:
    """The readings that a fit is made on: all, or those of one series. Raises OutsideSense for a series that is gone."""
    if not wanted.series:
        return table.readings
    if table.series is None or wanted.series not in table.series.names:
        raise OutsideSense("series", f"There are no readings of {wanted.series} any more. Choose another series.")
    return table.readings.choosing(table.readings.included & table.series.rows_of(wanted.series))
