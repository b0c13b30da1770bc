"""A formula with units, rewritten so that its plain numbers come out right.

Where a formula needs it, quantities are converted before they are combined (SI Brochure, 9th ed., 5.4.1: a quantity is a number
times a unit): both sides of a sum to one unit, arguments of functions and exponents to plain numbers, degrees to radians, per cent
to shares. Temperatures in °C or °F are absolute in products, powers and functions; the difference of two of them is in kelvins.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import pi

from ridge.core.carrying.unit_algebra import (
    PintUnit,
    factor_between,
    factors_of,
    has_zero_of_its_own,
    plain_unit,
    read_unit,
    write_unit,
)
from ridge.core.errors import UnitsDiffer
from ridge.core.formula.tree import (
    Call,
    Choice,
    Comparison,
    Constant,
    Name,
    Negative,
    Node,
    Number,
    Operation,
    add,
    children,
    divide,
    multiply,
    names_in,
    negative,
    number,
    power,
    substitute,
    walk,
    with_children,
)
from ridge.core.formula.writing import to_text

_SAME = {"abs", "floor", "ceil", "min", "max", "round"}
_SHARES = {"percent", "permille", "ppm"}
_ROUNDING = 1e-12


@dataclass(frozen=True)
class FitCurve:
    """The curve of a fit, which a formula calls by its letter: ``tree`` in ``variable``, both counted in these units. Its parameters
    are plain numbers there, so that their units need not be known."""

    tree: Node
    variable: str
    x_unit: str
    y_unit: str

    def at(self, argument: Node) -> Node:
        """Return the tree of the curve at an argument in the unit of x."""
        return substitute(self.tree, {self.variable: argument})


@dataclass(frozen=True)
class Coherent:
    """``tree``: the formula to evaluate with values in their own units; ``unit``: of its value, empty for a plain number or where it
    is not known; ``remark``: why it is not known."""

    tree: Node
    unit: str
    remark: str = ""


def in_coherent_units(
    tree: Node, units: Mapping[str, str], wanted: str = "", *, curves: Mapping[str, FitCurve] | None = None
) -> Coherent:
    """Rewrite a formula for values in ``units``, by name; those left out are plain numbers.

    Parameters
    ----------
    tree :
        Calls of fits stand in it as ``A(…)``.
    units :
        By name. With one that is not known nothing is converted.
    wanted :
        Unit of the result; left out, or where it is of another kind, the one that follows from the formula.
    curves :
        What calls of fits stand for, by letter.

    Raises
    ------
    UnitsDiffer
        With the place, for a sum of unlike units, a function or an exponent of something with a unit, a curve at something that
        is not in the unit of x, and a plain number added to a temperature in °C or °F.

    >>> from ridge.core.carrying.coherent import in_coherent_units
    >>> from ridge.core.formula import parse
    >>> from ridge.core.formula.writing import to_text
    >>> found = in_coherent_units(parse("a + b").tree, {"a": "m", "b": "cm"})
    >>> to_text(found.tree), found.unit
    ('a + 0.01*b', 'm')
    """
    named = {name: units.get(name, "") for name in names_in(tree)}
    read = {name: read_unit(text) for name, text in named.items()}
    called = _called(tree, curves or {})
    of_curves = [unit for curve in called.values() for unit in (curve.x_unit, curve.y_unit)]
    unread = [text for text in (*named.values(), *of_curves) if read_unit(text) is None]
    if unread:
        return Coherent(
            written_out(tree, called),
            "",
            f"'{unread[0]}' is not a unit that Ridge knows, so units are not converted here.",
        )
    if not any((*named.values(), *of_curves)):
        return Coherent(written_out(tree, called), "")
    if isinstance(tree, Name):
        return _as_wanted(tree, named[tree.name], wanted)
    found = _Rewriting(named, read, called).of(tree)
    node, unit = _kelvins(found) if found.absolute else (found.node, found.unit)
    node, unit = _tidy(node, unit, [dict(one._units) for one in read.values() if one is not None])
    done = _as_wanted(node, write_unit(unit), wanted)
    return replace(done, remark=_converted_twice(tree, write_unit(unit), done.unit))


def _called(tree: Node, curves: Mapping[str, FitCurve]) -> dict[str, FitCurve]:
    letters = {part.function for part in walk(tree) if isinstance(part, Call)}
    return {letter: curve for letter, curve in curves.items() if letter in letters}


def written_out(tree: Node, curves: Mapping[str, FitCurve]) -> Node:
    """Return the tree with the curves in place of their calls, nothing converted."""
    if not curves:
        return tree
    match tree:
        case Call(letter, (argument,)) if letter in curves:
            return curves[letter].at(written_out(argument, curves))
        case _:
            return with_children(tree, [written_out(part, curves) for part in children(tree)])


def _converted_twice(tree: Node, own: str, wanted: str) -> str:
    """Say where a number in the formula is the factor by which the result is converted anyway, as 1000 in ``L*1000`` from m to mm."""
    if own == wanted or has_zero_of_its_own(own) or has_zero_of_its_own(wanted):
        return ""
    factor = factor_between(own, wanted)
    if factor is None or abs(factor - 1) < _ROUNDING:
        return ""
    alike = [part for part in walk(tree) if isinstance(part, Number) and _is_factor(part.value, factor)]
    if not alike:
        return ""
    return f"The result is converted from {own} to {wanted} automatically. Remove {to_text(alike[0])} if it converts the unit."


def _is_factor(value: float, factor: float) -> bool:
    return any(abs(value / one - 1) < _ROUNDING for one in (factor, 1 / factor))


def _as_wanted(node: Node, unit: str, wanted: str) -> Coherent:
    if not wanted or wanted == unit:
        return Coherent(node, unit)
    if has_zero_of_its_own(wanted) or has_zero_of_its_own(unit):
        return _as_temperature(node, unit, wanted)
    one, other = read_unit(unit), read_unit(wanted)
    if one is None or other is None or one.dimensionality != other.dimensionality:
        return Coherent(node, unit)
    return Coherent(_times(node, float((1 * one).to(other).magnitude)), wanted)


def _as_temperature(node: Node, unit: str, wanted: str) -> Coherent:
    """An absolute temperature in another unit, by way of kelvins."""
    one, other = read_unit(unit), read_unit(wanted)
    if one is None or other is None or one.dimensionality != other.dimensionality:
        return Coherent(node, unit)
    if has_zero_of_its_own(unit):
        node = _to_kelvins(node, unit)
    else:
        node = _times(node, float((1 * one).to("kelvin").magnitude))
    if not has_zero_of_its_own(wanted):
        return Coherent(_times(node, 1 / float((1 * other).to("kelvin").magnitude)), wanted)
    if "F" in wanted:
        return Coherent(add(_times(node, 1.8), number(-459.67)), wanted)
    return Coherent(add(node, number(-273.15)), wanted)


@dataclass(frozen=True)
class _Part:
    """A part of a formula: its value is in ``unit``; ``absolute``: the text of a unit with an offset (°C, °F)."""

    node: Node
    unit: PintUnit
    absolute: str = ""


class _Rewriting:
    def __init__(self, named: Mapping[str, str], read: Mapping[str, PintUnit], curves: Mapping[str, FitCurve]) -> None:
        self._named, self._read, self._curves = named, read, curves

    def of(self, tree: Node) -> _Part:
        match tree:
            case Number() | Constant():
                return _Part(tree, plain_unit())
            case Name(name):
                text = self._named[name]
                return _Part(tree, self._read[name], text if has_zero_of_its_own(text) else "")
            case Negative(part):
                node, unit = self._kelvins(part)
                return _Part(negative(node), unit)
            case Operation("+" | "-", left, right):
                return self._sum(tree.sign, left, right)
            case Operation("*", left, right):
                (one, unit), (other, by) = self._kelvins(left), self._kelvins(right)
                return _Part(multiply(one, other), unit * by)
            case Operation("/", left, right):
                (one, unit), (other, by) = self._kelvins(left), self._kelvins(right)
                return _Part(divide(one, other), unit / by)
            case Operation("^", base, exponent):
                return self._raised(tree, base, exponent)
            case Call(letter, (part,)) if letter in self._curves:
                return self._curve(tree, self._curves[letter], part)
            case Call("sqrt" | "cbrt" as root, (part,)):
                node, unit = self._kelvins(part)
                return _Part(Call(root, (node,)), unit ** (0.5 if root == "sqrt" else 1 / 3))
            case Call(function, arguments) if function in _SAME:
                nodes, unit = self._alike(arguments, tree)
                return _Part(Call(function, tuple(nodes)), unit)
            case Call(function, arguments):
                return self._function(tree, function, arguments)
            case Choice(condition, yes, no):
                sides, _ = self._alike((condition.left, condition.right), condition)
                (first, second), unit = self._alike((yes, no), tree)
                return _Part(Choice(Comparison(condition.sign, *sides), first, second), unit)
        raise UnitsDiffer("The unit of this formula is not worked out.")

    def _curve(self, tree: Node, curve: FitCurve, argument: Node) -> _Part:
        """The curve at an argument in the unit of x; a plain number counts in it."""
        found = self.of(argument)
        given = found.absolute or write_unit(found.unit)
        if given and given != curve.x_unit:
            converted = _as_wanted(found.node, given, curve.x_unit)
            if converted.unit != curve.x_unit:
                x_unit = curve.x_unit or "a plain number"
                raise UnitsDiffer(f"{to_text(tree)}: the argument is in {given}, but x of the fit is in {x_unit}.")
            found = replace(found, node=converted.tree)
        absolute = curve.y_unit if has_zero_of_its_own(curve.y_unit) else ""
        return _Part(curve.at(found.node), read_unit(curve.y_unit), absolute)

    def _kelvins(self, tree: Node) -> tuple[Node, PintUnit]:
        return _kelvins(self.of(tree))

    def _sum(self, sign: str, left: Node, right: Node) -> _Part:
        one, other = self.of(left), self.of(right)
        for part, beside in ((left, other), (right, one)):
            if beside.absolute and not names_in(part):
                raise UnitsDiffer(
                    f"{to_text(beside.node)} is converted to kelvin automatically: write {to_text(beside.node)}, or add a known "
                    f"value with its unit."
                )
        if sign == "-" and one.absolute and other.absolute == one.absolute:
            # A difference of two temperatures on one scale needs no zero.
            step = 1.0 if "C" in one.absolute else 5 / 9
            return _Part(_times(Operation("-", one.node, other.node), step), read_unit("K"))
        (first, second), unit = self._alike((left, right), Operation(sign, left, right))
        return _Part(Operation(sign, first, second), unit)

    def _alike(self, parts: tuple[Node, ...], whole: Node) -> tuple[list[Node], PintUnit]:
        """The parts in one unit, that of the first that has one; a number without a name counts in it."""
        found = [(*self._kelvins(part), not names_in(part)) for part in parts]
        named = [unit for _, unit, bare in found if not bare]
        if not named:
            return [node for node, _, _ in found], plain_unit()
        unit = named[0]
        bare_beside_share = any(bare for _, _, bare in found) and str(unit) in _SHARES
        if bare_beside_share or any(other.dimensionless and not dict(other._units) for other in named):
            unit = plain_unit() if unit.dimensionless else unit
        nodes = []
        for node, own, bare in found:
            if own.dimensionality != unit.dimensionality and not bare:
                units = " and ".join(write_unit(one) or "a plain number" for one in (unit, own))
                raise UnitsDiffer(f"{to_text(whole)}: {units} cannot be added or compared. Check the units.")
            nodes.append(node if bare else _times(node, float((1 * own).to(unit).magnitude)))
        return nodes, unit

    def _raised(self, tree: Node, base: Node, exponent: Node) -> _Part:
        below, unit = self._kelvins(base)
        above = self._plain(exponent, tree, "the exponent")
        value = _known(above)
        if value is not None:
            return _Part(power(below, above), unit**value)
        if not unit.dimensionless:
            raise UnitsDiffer(
                f"{to_text(tree)}: {write_unit(unit)} cannot be raised to a power that is no plain number. Divide by a unit first."
            )
        return _Part(power(self._plain(base, tree, "the base"), above), plain_unit())

    def _function(self, tree: Node, function: str, arguments: tuple[Node, ...]) -> _Part:
        in_degrees = function.endswith("_of_degrees")
        nodes = []
        for argument in arguments:
            part = self._plain(argument, tree, "its argument")
            # What is typed for such a function counts in degrees unless it has a unit of angle.
            if in_degrees and self._kelvins(argument)[1] != plain_unit():
                part = _times(part, 180 / pi)
            nodes.append(part)
        return _Part(Call(function, tuple(nodes)), plain_unit())

    def _plain(self, tree: Node, whole: Node, what: str) -> Node:
        """A part as a plain number: an angle in radians, a share of one."""
        node, unit = self._kelvins(tree)
        if not unit.dimensionless:
            raise UnitsDiffer(
                f"{to_text(whole)}: {what} is in {write_unit(unit)}, but must be a plain number or an angle. Divide it by a unit first."
            )
        return _times(node, float((1 * unit).to_base_units().magnitude))


def _known(node: Node) -> float | None:
    """The value of an exponent without names."""
    match node:
        case Number(value):
            return value
        case Negative(Number(value)):
            return -value
        case Operation("/", Number(top), Number(bottom)) if bottom:
            return top / bottom
        case Negative(Operation("/", Number(top), Number(bottom))) if bottom:
            return -top / bottom
    return None


def _kelvins(part: _Part) -> tuple[Node, PintUnit]:
    """The part with an absolute temperature counted from absolute zero."""
    if not part.absolute:
        return part.node, part.unit
    return _to_kelvins(part.node, part.absolute), read_unit("K")


def _to_kelvins(node: Node, unit: str) -> Node:
    return _times(add(node, number(459.67)), 5 / 9) if "F" in unit else add(node, number(273.15))


def _times(node: Node, factor: float) -> Node:
    return node if abs(factor - 1) < _ROUNDING else multiply(number(factor), node)


def _tidy(node: Node, unit: PintUnit, sources: Sequence[Mapping[str, float]]) -> tuple[Node, PintUnit]:
    """A ratio of like units as a plain number, unless a source is given in that ratio (g/kg), and a unit of many parts in base
    units where these are fewer."""
    parts = dict(unit._units)
    if unit.dimensionless and len(parts) == 2 and any(parts.keys() <= one.keys() for one in sources):
        return node, unit
    if unit.dimensionless and len(parts) > 1:
        return _times(node, float((1 * unit).to_base_units().magnitude)), plain_unit()
    base = (1 * unit).to_base_units()
    if len(parts) > 1 and factors_of(base.units) < factors_of(unit):
        return _times(node, float(base.magnitude)), base.units
    reduced = (1 * unit).to_reduced_units()
    if factors_of(reduced.units) < factors_of(unit):
        return _times(node, float(reduced.magnitude)), reduced.units
    return node, unit
