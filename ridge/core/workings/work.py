"""The front door: a working by its name."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ridge.core.errors import OutsideSense, TooFewReadings
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.results.steps import Step
from ridge.core.wording.exact_numbers import NumberForm
from ridge.core.wording.naming import Naming
from ridge.core.wording.working_steps import WordedStep, title_of, word_steps
from ridge.core.wording.working_text import as_latex, as_mathml, as_text
from ridge.core.workings.asked import Asked
from ridge.core.workings.cubic_splines import SPLINES
from ridge.core.workings.descent_path import descent_path
from ridge.core.workings.goodness_of_fit import goodness_of_fit
from ridge.core.workings.interval_at import interval_at
from ridge.core.workings.lagrange_form import lagrange_form
from ridge.core.workings.line_by_sums import line_by_sums
from ridge.core.workings.newton_form import divided_differences
from ridge.core.workings.overdetermined import least_squares
from ridge.core.workings.solve_for_x import solve_for_x
from ridge.core.workings.straight_pieces import straight_pieces
from ridge.core.workings.through_points import through_points
from ridge.core.workings.tried_by_hand import tried_by_hand

WORKINGS: Mapping[str, Callable[[Asked], list[Step]]] = {
    "line-by-sums": line_by_sums,
    "least-squares": least_squares,
    "through-points": through_points,
    "divided-differences": divided_differences,
    "lagrange": lagrange_form,
    "straight-pieces": straight_pieces,
    **SPLINES,
    "by-hand": tried_by_hand,
    "least-squares-path": descent_path,
    "goodness-of-fit": goodness_of_fit,
    "interval-at": interval_at,
    "solve-for-x": solve_for_x,
}


@dataclass(frozen=True)
class Working:
    """A working: ``steps`` with their numbers, and the same in words. ``what``: one of ``WORKINGS``."""

    what: str
    steps: tuple[Step, ...]
    form: NumberForm
    naming: Naming
    asked: Asked

    @property
    def title(self) -> str:
        return title_of(self.what)

    @property
    def worded(self) -> tuple[WordedStep, ...]:
        """Sentence, equations and table of each step."""
        return word_steps(self.steps, self.naming, self.form)

    @property
    def text(self) -> str:
        return as_text(self.title, self.worded)

    @property
    def latex(self) -> str:
        """For a document with amsmath."""
        return as_latex(self.title, self.worded)

    @property
    def mathml(self) -> str:
        return as_mathml(self.title, self.worded)

    def __repr__(self) -> str:
        return f"Working({self.what!r}, {len(self.steps)} steps)"

    def _repr_html_(self) -> str:
        """For notebooks."""
        return self.mathml


def work(
    what: str,
    readings: Readings,
    model: Model | Fit | None = None,
    *,
    form: Literal["fractions", "decimals"] = "fractions",
    places: int = 4,
    x: float | None = None,
    y: float | None = None,
    level: float = 0.95,
    least_squares_in: str = "y",
    values: Mapping[str, float] | None = None,
    start: Mapping[str, float] | None = None,
    attempts: Sequence[Mapping[str, float]] = (),
    end_slopes: tuple[float, float] = (0.0, 0.0),
    average_repeats: bool = False,
    naming: Naming | None = None,
) -> Working:
    """The working ``what`` (one of ``WORKINGS``), step by step.

    Parameters
    ----------
    model : Model or Fit, optional
        Needed by all but the interpolations; of a fit, its readings and model are taken.
    form, places :
        How numbers are written: as fractions, or as decimals with so many places (0 to 12).
    x, y : float, optional
        Where a value or an interval is wanted; what x is wanted for.
    values, start, attempts : optional
        Parameters by hand, those a path begins with, and earlier attempts.
    end_slopes, average_repeats :
        As in ``ridge.core.interpolate``.

    Raises
    ------
    OutsideSense
        For a name or a number outside sense, or a model that this working does not suit.
    TooFewReadings, UndefinedAt, NoFit, BeyondDoubles

    >>> from ridge.core import Readings
    >>> from ridge.core.models import Line
    >>> from ridge.core.workings import work
    >>> w = work("line-by-sums", Readings([1, 2, 3], [2, 3, 5]), Line())
    >>> [str(value) for value in next(step for step in w.steps if step.name == "coefficients").value]
    ['3/2', '1/3']
    """
    if what not in WORKINGS:
        raise OutsideSense("what", f"is one of {', '.join(WORKINGS)}.")
    if form not in ("fractions", "decimals"):
        raise OutsideSense("form", "is 'fractions' or 'decimals'.")
    if places not in range(13):
        raise OutsideSense("places", "is a whole number from 0 to 12.")
    if not readings.used.any():
        raise TooFewReadings(1, 0)
    naming = naming or Naming()
    fit = model if isinstance(model, Fit) else None
    asked = Asked(
        fit.readings if fit is not None else readings,
        fit.model if fit is not None else model if isinstance(model, Model) else None,
        fit, fit.least_squares_in if fit is not None else least_squares_in, x, y, level, values or {}, start or {}, attempts,
        end_slopes, average_repeats, naming.rising,
    )  # fmt: skip
    return Working(what, tuple(WORKINGS[what](asked)), NumberForm(form, places), naming, asked)
