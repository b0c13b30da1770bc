"""Which powers of the units of x and y each parameter carries, read off the formula.

In exp(-k*x) the exponent has no unit, so k carries 1/[x]; in (x - m)/w both m and w carry [x]. From this the
search takes its scales. Where a formula mixes units the rule that does not fit is passed over.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import lru_cache
from types import MappingProxyType

from ridge.core.formula.tree import Call, Choice, Comparison, Constant, Name, Negative, Node, Number, Operation

Power = dict[str, Fraction]  # shares of the units [x] and [y], and of powers not known yet, by name
X, Y = "[x]", "[y]"


@dataclass
class _Unknowns:
    """Linear relations between the powers, solved by substitution as they come."""

    solved: dict[str, Power] = field(default_factory=dict)
    made: int = 0

    def fresh(self) -> Power:
        self.made += 1
        return {f"#{self.made}": Fraction(1)}

    def settle(self, power: Power) -> Power:
        result: Power = {}
        waiting = dict(power)
        while waiting:
            name, factor = waiting.popitem()
            if name in self.solved:
                for other, share in self.solved[name].items():
                    waiting[other] = waiting.get(other, Fraction(0)) + factor * share
            else:
                result[name] = result.get(name, Fraction(0)) + factor
        return {name: factor for name, factor in result.items() if factor}

    def equal(self, left: Power, right: Power) -> None:
        rest = self.settle(_combine(left, right, Fraction(-1)))
        names = [name for name in rest if name not in (X, Y)]
        if not names:
            return  # known on both sides; where they differ, the formula mixes units
        name = names[0]
        factor = rest.pop(name)
        self.solved[name] = {other: -share / factor for other, share in rest.items()}


def _combine(left: Power, right: Power, factor: Fraction) -> Power:
    result = dict(left)
    for name, share in right.items():
        result[name] = result.get(name, Fraction(0)) + factor * share
    return {name: share for name, share in result.items() if share}


_PLAIN: Power = {}


@lru_cache(maxsize=512)
def unit_powers(tree: Node, variable: str, names: tuple[str, ...]) -> Mapping[str, tuple[float, float]]:
    """The powers of [x] and of [y] in the unit of each name; 0 where the formula leaves them open."""
    unknowns = _Unknowns()
    numbers: list[Power] = []

    def visit(node: Node) -> Power:
        match node:
            case Number():
                # A plain factor has no unit; a plain term takes the unit of its neighbours, none where they leave it open.
                numbers.append(unknowns.fresh())
                return numbers[-1]
            case Constant():
                return _PLAIN
            case Name(name):
                return {X: Fraction(1)} if name == variable else {name: Fraction(1)}
            case Negative(part):
                return visit(part)
            case Operation("+" | "-", left, right):
                first, second = visit(left), visit(right)
                unknowns.equal(first, second)
                return first
            case Operation("*", left, right):
                return _combine(_factor(left), _factor(right), Fraction(1))
            case Operation("/", left, right):
                return _combine(_factor(left), _factor(right), Fraction(-1))
            case Operation("^", base, Number(value)) if value == round(value * 12) / 12:
                return {name: share * Fraction(value).limit_denominator(12) for name, share in _factor(base).items()}
            case Operation("^", base, exponent):
                # A power to be found: what is raised keeps its own unit, the whole has any.
                visit(base)
                unknowns.equal(visit(exponent), _PLAIN)
                return unknowns.fresh()
            case Call("sqrt", (part,)):
                return {name: share / 2 for name, share in visit(part).items()}
            case Call("cbrt", (part,)):
                return {name: share / 3 for name, share in visit(part).items()}
            case Call("abs" | "floor" | "ceil", (part,)):
                return visit(part)
            case Call("min" | "max", (first_part, second_part)):
                first, second = visit(first_part), visit(second_part)
                unknowns.equal(first, second)
                return first
            case Call("ln" | "log10" | "log2" | "sign", (part,)):
                visit(part)
                return _PLAIN
            case Call(_, arguments):
                for argument in arguments:
                    unknowns.equal(visit(argument), _PLAIN)
                return _PLAIN
            case Comparison(_, left, right):
                unknowns.equal(visit(left), visit(right))
                return _PLAIN
            case Choice(condition, yes, no):
                visit(condition)
                first, second = visit(yes), visit(no)
                unknowns.equal(first, second)
                return first
        return _PLAIN

    def _factor(node: Node) -> Power:
        return _PLAIN if isinstance(node, Number) else visit(node)

    unknowns.equal(visit(tree), {Y: Fraction(1)})
    for plain in numbers:
        unknowns.equal(plain, _PLAIN)
    found: dict[str, tuple[float, float]] = {}
    for name in names:
        power = unknowns.settle({name: Fraction(1)})
        found[name] = (float(power.get(X, Fraction(0))), float(power.get(Y, Fraction(0))))
    return MappingProxyType(found)
