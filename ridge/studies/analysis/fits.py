"""From what a study asks to be fitted to the core's models and fits."""

from __future__ import annotations

import logging
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Literal

from ridge.core.by_hand import with_values
from ridge.core.carrying import Moved, SharedError, moved_by
from ridge.core.catalogue import defaults_of
from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.fitting import fit
from ridge.core.formula.parse import Curve
from ridge.core.formula.tree import number, substitute
from ridge.core.interpolation import Interpolation, interpolate
from ridge.core.interpolation.kinds import FAMILY as INTERPOLATION
from ridge.core.models import Formula, Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.studies.analysis.worker import Interrupted, fit_in_worker
from ridge.studies.apart import FAILED
from ridge.studies.content.readings import Table
from ridge.studies.content.state import FitState, LinkedFit
from ridge.studies.content.wanted import hand_values, known_values, model_of, readings_for
from ridge.studies.recent import Recent

log = logging.getLogger(__name__)

_recent_moved: Recent[object, tuple[Moved, ...] | RidgeError] = Recent(200, worded=True)
OF_A_FIT = 600
"""Readings that weigh as much in the memory as all else of a fit."""
_recent: Recent[object, Fit | Interpolation] = Recent(600_000)  # readings: a fit of 100 000 holds some 10 MB


Kind = Literal["fit", "hand", "known", "interpolation"]
"""What a curve is: fitted, adjusted by hand, a reference curve (every number given) or an interpolation. Only a fit has an
uncertainty."""


@dataclass(frozen=True)
class Fitted:
    """What came of one wanted fit: the fit or the interpolation, or the error, or a refusal in words where Ridge itself
    failed."""

    wanted: FitState
    model: Model | None
    fit: Fit | None
    refusal: str = ""
    error: RidgeError | None = None
    readings: Readings | None = None
    interpolation: Interpolation | None = None
    shared: tuple[SharedError, ...] = ()
    made_from: object = None
    """All that the numbers of the fit depend on."""

    @cached_property
    def moved(self) -> tuple[Moved, ...]:
        """What the errors that all readings share do to it; none where the moved readings cannot be fitted, see ``not_moved``."""
        return () if isinstance(self._moved, RidgeError) else self._moved

    @property
    def not_moved(self) -> str:
        """Why it is not known what the shared errors do to it; empty where it is."""
        return str(self._moved) if isinstance(self._moved, RidgeError) else ""

    @cached_property
    def _moved(self) -> tuple[Moved, ...] | RidgeError:
        fit = self.fit
        if fit is None or not self.shared:
            return ()
        shifts = tuple(
            (one.name, *(None if shift is None else shift.tobytes() for shift in (one.x, one.y))) for one in self.shared
        )
        return _recent_moved.get_or_make((self.made_from, shifts), lambda: _moved(fit, self.shared))

    @property
    def by_accident(self) -> bool:
        """Whether it failed for a reason that need not be there the next time."""
        return bool(self.refusal) or isinstance(self.error, Interrupted)

    @property
    def curve(self) -> Fit | Interpolation | None:
        """Whatever can be drawn and asked."""
        return self.fit or self.interpolation

    @property
    def kind(self) -> Kind:
        if self.wanted.family == INTERPOLATION:
            return "interpolation"
        if self.wanted.by_hand:
            return "hand"
        return "known" if self.model is not None and not self.model.free_names else "fit"

    @property
    def options(self) -> dict[str, Any]:
        """Every option of the family with the value that holds."""
        return defaults_of(self.wanted.family) | dict(self.wanted.options)


def fit_one(table: Table, wanted: FitState) -> Fitted:
    """One fit, or why there is none; it never fails. Fits of the same readings are remembered."""
    model: Model | None = None
    readings: Readings | None = None
    try:
        interpolating = wanted.family == INTERPOLATION
        curves = called_by(table, wanted)
        model = None if interpolating else model_of(wanted, table.naming, curves)
        readings = used = readings_for(table, wanted)
        weight = OF_A_FIT + len(readings)
        called = tuple((letter, curve.tree, curve.variable) for letter, curve in curves.items())
        key = (used.fingerprint, _fingerprint(wanted), table.naming.x, called)
        if model is None:
            curve = _recent.get_or_make(key, lambda: _interpolate(used, wanted), weight=weight)
            return Fitted(wanted, None, None, readings=used, interpolation=curve)  # type: ignore[arg-type]
        chosen = model
        found = _recent.get_or_make(key, lambda: _make(used, chosen, wanted), weight=weight)
        return Fitted(wanted, model, found, readings=used, shared=table.shared, made_from=key)  # type: ignore[arg-type]
    except RidgeError as error:
        return Fitted(wanted, model, None, error=error, readings=readings)
    except Exception:
        log.exception("fit %s failed", wanted.letter)
        return Fitted(wanted, None, None, FAILED, readings=readings)


def _moved(fit: Fit, shared: tuple[SharedError, ...]) -> tuple[Moved, ...] | RidgeError:
    try:
        return moved_by(fit, shared)
    except RidgeError as problem:
        return problem


def called_by(table: Table, wanted: FitState) -> dict[str, Curve]:
    """The curves that a formula calls, with their numbers. Raises OutsideSense where one has none."""
    curves = {}
    for one in wanted.calls if isinstance(wanted, LinkedFit) else ():
        fit = fit_one(table, one).fit
        if fit is None:
            raise OutsideSense(
                "formula",
                f"Fit {one.letter}, which the formula calls, is no fitted curve. See what is said of {one.letter}.",
            )
        curves[one.letter] = curve_of(fit)
    return curves


def curve_of(fit: Fit) -> Curve:
    """A fitted curve as a formula with all its numbers."""
    numbers = {name: number(value) for name, value in fit.values.items()}
    return Curve(substitute(fit.model.expression, numbers), fit.model.variable)


def _fingerprint(wanted: FitState) -> str:
    """Everything about a wanted fit that its numbers depend on."""
    parts = (wanted.options, wanted.fixed, wanted.values, wanted.bounds)
    return repr((wanted.family, wanted.method, wanted.by_hand, *(sorted(part.items()) for part in parts)))


def _make(readings: Readings, model: Model, wanted: FitState) -> Fit:
    if wanted.by_hand or not model.free_names:
        return with_values(readings, model, hand_values(readings, model, wanted))
    if isinstance(model, Formula):
        return fit_in_worker(readings, model, wanted.values, _bounds(wanted), wanted.method)
    start, bounds = known_values(wanted.values, model), _bounds(wanted)
    return fit(readings, model, start=start, bounds=bounds, least_squares_in=wanted.method)


def _bounds(wanted: FitState) -> dict[str, tuple[float, float]]:
    return {
        name: (-math.inf if low is None else low, math.inf if high is None else high)
        for name, (low, high) in wanted.bounds.items()
    }


def _interpolate(readings: Readings, wanted: FitState) -> Interpolation:
    options = defaults_of(INTERPOLATION) | dict(wanted.options)
    return interpolate(
        readings,
        options["kind"],
        ends=options["ends"],
        degree=options["spline_degree"],
        end_slopes=(options["first_slope"], options["last_slope"]),
        average_repeats=options["average"],
    )


def fit_all(table: Table, wanted: Sequence[FitState]) -> list[Fitted]:
    """Every fit that a study asks for, the leading one first."""
    return [fit_one(table, one) for one in wanted]
