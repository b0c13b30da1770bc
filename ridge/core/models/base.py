"""The shape that every family of models has."""

from __future__ import annotations

from abc import ABC
from collections.abc import Callable, Mapping
from copy import copy
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any, ClassVar, Self

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense
from ridge.core.formula import Program, differentiate, parse
from ridge.core.formula.tree import Node
from ridge.core.models.declared import About, Form, Going, LogarithmicLine, Option, StraightForm
from ridge.core.models.grips import Grip, Look

Array = npt.NDArray[np.float64]
Extended = npt.NDArray[np.longdouble]
ExtendedNumber = np.longdouble


@dataclass(frozen=True)
class Derived:
    """A quantity that follows from the parameters.

    ``expression``: a formula in the parameter names. ``unit``: powers of the units of x and y; ``angle`` instead
    for an angle. ``meaning``: what it says, a template (see ``declared``). ``when``: a formula that must be positive for the
    quantity to have a meaning, if any. ``zero_of``: where it is the x at which the curve (0) or its slope (1) is zero, which.
    """

    name: str
    expression: str
    unit: tuple[int, int]
    meaning: str
    when: str = ""
    angle: bool = False
    zero_of: int | None = None


def _unchanged(x: Any) -> Any:
    return x


def _of_unchanged(x: Any) -> tuple[Any, Any]:
    return np.ones_like(x), np.zeros_like(x)


@dataclass(frozen=True)
class LinearForm:
    """A model that is a polynomial in t(x), where t is x itself, ln x or 1/x: one solve finds its parameters.

    ``powers``: the power of t of each parameter, in the order of the model's ``parameter_names``.
    ``transform``: t at x in the precision of x, infinite or NaN where it has no value; ``why`` and ``remedy`` say
    what to do about that. ``transform_derivatives``: dt/dx and d²t/dx².
    """

    powers: tuple[int, ...]
    transform: Callable[[Any], Any] = _unchanged
    why: str = ""
    remedy: str = ""
    transform_derivatives: Callable[[Any], tuple[Any, Any]] = _of_unchanged

    @property
    def transforms_nothing(self) -> bool:
        return self.transform is _unchanged


@dataclass(frozen=True)
class InnerForm:
    """A nonlinear model as the search sees it, in u = (x − origin)/span, which runs over the measured range.

    ``formula``: the equation in ``x`` (standing for u) and the inner names; ``linear`` and ``nonlinear``: those names.
    ``thetas``: trial values of the nonlinear ones, shape (trials, number of them), from the sorted u; where it is the
    only one, ascending. ``more``: trials that only the full readings show, from u and y.
    ``natural``: from inner values, origin and span to the model's own parameters.
    ``shifts``: whether x may be shifted; otherwise the origin is 0.
    """

    formula: str
    linear: tuple[str, ...]
    nonlinear: tuple[str, ...]
    thetas: Callable[[Array], Array]
    natural: Callable[[dict[str, Any], Any, Any], dict[str, Any]]
    shifts: bool = True
    more: Callable[[Array, Array], Array] | None = None


class _Programs:
    """The compiled forms of one equation, each made when first needed."""

    def __init__(self, tree: Node, variable: str, names: tuple[str, ...]) -> None:
        self._tree, self._variable, self._names = tree, variable, names
        self._inputs = (variable, *names)

    @cached_property
    def values(self) -> Program:
        return Program([self._tree], self._inputs)

    @cached_property
    def gradient(self) -> Program:
        return Program([differentiate(self._tree, name) for name in self._names], self._inputs)

    @cached_property
    def _orders(self) -> tuple[Node, Node]:
        first = differentiate(self._tree, self._variable)
        return first, differentiate(first, self._variable)

    @cached_property
    def slopes(self) -> Program:
        return Program(self._orders, self._inputs)

    @cached_property
    def slope_gradients(self) -> Program:
        return Program([differentiate(order, name) for order in self._orders for name in self._names], self._inputs)


@lru_cache(maxsize=256)
def _programs_of(tree: Node, variable: str, names: tuple[str, ...]) -> _Programs:
    return _Programs(tree, variable, names)


class Model(ABC):
    """A form of equation with named parameters.

    A family gives its equation once, as a formula in ``x`` and the parameter names; values and exact
    derivatives follow from it. ``linear`` names the parameters that enter linearly, ``constant`` the one that
    is a constant term, if any. A ``linear_form`` or an ``inner_form`` tells how it is fitted without starting
    values; a model with neither is searched on scales read off its formula.

    Everything else that is said or drawn of a family follows from what it declares here: nothing outside its file
    knows it by name.
    """

    family: ClassVar[str]
    title: ClassVar[str]
    """What the family is called."""
    synonyms: ClassVar[tuple[str, ...]] = ()
    """What else it is called (common practice), for those who look for it."""
    place: ClassVar[int]
    """Where it stands in the catalogue, ascending."""
    options: ClassVar[tuple[Option, ...]] = ()
    forms: ClassVar[tuple[Form, ...]]
    """Its forms as the catalogue offers them; the first that holds is the one that a model is of."""
    flat: ClassVar[bool] = False
    """Whether its curve is one value throughout."""
    bends: ClassVar[bool] = True
    """Whether its curve is anything but a straight line."""
    graph: ClassVar[str] = "curve"
    """What its graph is called."""
    typed: ClassVar[bool] = False
    """Whether its equation was typed by its user, and stays in their order of terms."""
    periodic: ClassVar[bool] = False
    level: bool = False
    """Whether it has a level that can be left out."""
    shift: bool = False
    """Whether it has a shift along x that can be left out."""
    logarithms: LogarithmicLine | None = None
    """How it is a straight line in logarithms, if at all."""
    angle_unit: str = ""
    """Of its parameters that are angles."""
    variable: str = "x"
    formula: str
    """The equation's right side as a formula in x and the parameters."""
    written: str = ""
    """The same in the usual order of terms, where ``formula`` is arranged for computing."""
    parameter_names: tuple[str, ...]
    linear: tuple[str, ...]
    constant: str | None
    fixed: Mapping[str, float]
    positive: tuple[str, ...] = ()
    """Parameters that are positive by definition."""
    inverses: tuple[str, ...] = ()
    """Formulas in ``y`` and the parameters for every x at which the curve takes the value y, where there are closed ones."""
    flattening: str | None = None
    """A parameter that, kept at zero, leaves a free constant of a model that has no constant term."""
    linear_form: LinearForm | None = None
    inner_form: InnerForm | None = None

    def __getstate__(self) -> dict[str, Any]:
        """Without the compiled forms, which are made anew from the tree where they are needed."""
        return {name: value for name, value in vars(self).items() if name != "_programs"}

    @property
    def grips(self) -> tuple[Grip, ...]:
        """Places of the curve to take hold of; by default its middle, which moves the constant term."""
        if self.constant is None:
            return ()
        moved = f"{self.constant} + to_y - y_middle"
        return (Grip("middle", "middle", "y_middle", {self.constant: moved}, "moves the curve up and down"),)

    def first_values(self, look: Look) -> dict[str, float]:
        """Values read off the readings by eye, to begin setting the curve by hand; one for each by default."""
        return dict.fromkeys(self.parameter_names, 1.0)

    @property
    def name(self) -> str:
        """What a sentence calls this very model: ``exponential with level``."""
        return self.title

    @property
    def about(self) -> Mapping[str, About]:
        """What is said of each parameter."""
        return {}

    @property
    def settings(self) -> tuple[Option, ...]:
        """Those options that can be set by themselves in this form."""
        return tuple(option for option in self.options if option.label)

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        """The coordinates in which its curve is a straight line (common practice), or why there are none, a template."""
        return "There are no usual coordinates in which this model is a straight line."

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        """How the curve goes on beyond the readings, on the side of ``x``, and what that supposes."""
        return Going("What this formula does there is the formula's doing, not the readings'.")

    def cycles(self, values: Mapping[str, float], low: float, high: float) -> float:
        """How often it repeats between two x."""
        return 0.0

    @cached_property
    def expression(self) -> Node:
        """The equation as a tree of the formula language."""
        return parse(self.formula).tree

    @cached_property
    def written_expression(self) -> Node:
        """The equation's tree as it is written out."""
        return parse(self.written).tree if self.written else self.expression

    @property
    def derived(self) -> tuple[Derived, ...]:
        """Quantities that follow from the parameters."""
        return ()

    def derived_beyond(self, values: Mapping[str, float], last: float) -> tuple[Derived, ...]:
        """Quantities that follow from the parameters and the last x in use, such as the next crest."""
        return ()

    @cached_property
    def free_names(self) -> tuple[str, ...]:
        return tuple(name for name in self.parameter_names if name not in self.fixed)

    @property
    def has_constant(self) -> bool:
        """Whether a free constant term is among the parameters."""
        return self.constant is not None and self.constant not in self.fixed

    @property
    def null(self) -> str:
        """The simplest special case, which F compares with: "constant", "fixed" (the constant term at its fixed value) or
        "zero"."""
        linear = any(name not in self.fixed for name in self.linear)
        if self.has_constant or (self.flattening is not None and self.flattening not in self.fixed and linear):
            return "constant"
        return "fixed" if self.constant is not None and self.fixed.get(self.constant) else "zero"

    def with_fixed(self, fixed: Mapping[str, float]) -> Self:
        """The same model with more parameters kept at a value. Raises OutsideSense for a name it does not have."""
        for name, value in fixed.items():
            if name not in self.parameter_names:
                raise OutsideSense(name, f"is no parameter of this model; it has {', '.join(self.parameter_names)}.")
            if not np.isfinite(value):
                raise OutsideSense(name, "must be kept at a finite number.")
        other = copy(self)
        other.__dict__.pop("free_names", None)
        other.fixed = {**self.fixed, **{name: float(value) for name, value in fixed.items()}}
        return other

    def canonical(self, values: dict[str, Any]) -> dict[str, Any]:
        """The same curve with its parameters in their usual ranges; fixed ones are left alone."""
        return values

    def with_positive_signs(self, values: dict[str, Any]) -> dict[str, Any]:
        """Return the same curve with positive values of the parameters whose sign makes no difference."""
        return values

    @cached_property
    def _programs(self) -> _Programs:
        return _programs_of(self.expression, self.variable, self.parameter_names)

    @property
    def operations(self) -> int:
        """How many operations on numbers its value and its derivatives at one x take."""
        return self._programs.values.operations + self._programs.gradient.operations

    @property
    def polish_operations(self) -> tuple[int, int]:
        """The same for its value on extended numbers, and for its derivatives beside them on plain ones."""
        return self._programs.values.extended_operations, self._programs.gradient.operations

    def _ordered(self, parameters: Mapping[str, Any]) -> list[Any]:
        return [parameters[name] for name in self.parameter_names]

    def evaluate(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        """Values at x, same shape as x, for given parameters; NaN or infinite where the model has no value."""
        x = np.asarray(x)
        x = x if x.dtype == np.longdouble else x.astype(np.float64)
        with np.errstate(all="ignore"):
            values = self._programs.values(x, *self._ordered(parameters))[0]
        return np.array(values if np.shape(values) == x.shape else np.broadcast_to(values, x.shape))

    def derivatives(self, x: npt.ArrayLike, parameters: Mapping[str, Any]) -> Any:
        """Exact derivatives with respect to every parameter, one after the other, shape (number of them, *shape of x)."""
        x = np.asarray(x)
        x = x if x.dtype == np.longdouble else x.astype(np.float64)
        with np.errstate(all="ignore"):
            found = self._programs.gradient(x, *self._ordered(parameters))
        rows = np.empty((len(found), *x.shape), dtype=x.dtype)
        for i, values in enumerate(found):
            rows[i] = values
        return rows

    def gradient(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> npt.NDArray[np.float64]:
        """The derivatives of each reading side by side, shape (len(x), len(parameter_names))."""
        return np.asarray(np.moveaxis(self.derivatives(x, parameters), 0, -1))

    def slope(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> Array:
        """dy/dx at x, same shape as x."""
        return self._derivative(x, parameters, 0)

    def bend(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> Array:
        """d²y/dx² at x, same shape as x."""
        return self._derivative(x, parameters, 1)

    def _derivative(self, x: npt.ArrayLike, parameters: Mapping[str, float], order: int) -> Array:
        x = np.asarray(x, dtype=np.float64)
        with np.errstate(all="ignore"):
            values = self._programs.slopes(x, *self._ordered(parameters))[order]
        return np.array(np.broadcast_to(values, x.shape), dtype=np.float64)

    def slope_gradients(self, x: npt.ArrayLike, parameters: Mapping[str, float]) -> tuple[Array, Array]:
        """Derivatives of dy/dx and of d²y/dx² with respect to every parameter, each (len(x), len(parameter_names))."""
        x = np.asarray(x, dtype=np.float64)
        with np.errstate(all="ignore"):
            found = self._programs.slope_gradients(x, *self._ordered(parameters))
        columns = np.stack([np.broadcast_to(column, x.shape) for column in found], axis=-1).astype(np.float64)
        count = len(self.parameter_names)
        return columns[..., :count], columns[..., count:]
