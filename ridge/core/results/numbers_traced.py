"""Where each single number of a step was made: in an equation, a line or the foot of a table of an earlier step."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ridge.core.formula.tree import Name, Node
from ridge.core.results.steps import Coefficients, Equation, Step, Table, Values


@dataclass(frozen=True)
class MadeAt:
    """The place of a step, from 0, and row and column in it: of an equation the first, of several numbers in lines their line, of
    the foot of a table the row after its last."""

    step: int
    row: int = 0
    column: int = 0


@dataclass(frozen=True)
class Traced:
    """A number of a step. ``own``: the step makes it; the others are put in. ``made_at``: None where no earlier step has it."""

    own: bool
    made_at: MadeAt | None


def numbers_traced(steps: Sequence[Step]) -> list[Mapping[str, Traced]]:
    """The numbers of each step, by their names in the order in which they stand there."""
    made: dict[str, MadeAt] = {}
    traced: list[Mapping[str, Traced]] = []
    for place, step in enumerate(steps):
        own = isinstance(step, Values | Coefficients)
        traced.append({name: Traced(own, made.get(name)) for name in _named(step)})
        made |= _made(step, place)
    return traced


def _named(step: Step) -> list[str]:
    match step:
        case Equation():
            return list(step.given)
        case Values():
            return _names(step.headings)
        case Coefficients():
            return _names(step.names)
    return []


def _made(step: Step, place: int) -> dict[str, MadeAt]:
    match step:
        case Equation(left=Name(name)):
            return {name: MadeAt(place)}
        case Values() | Coefficients():
            return {name: MadeAt(place, row) for row, name in enumerate(_named(step)) if name}
        case Table():
            foot = len(step.rows)
            return {name: MadeAt(place, foot, column) for column, name in enumerate(step.sum_names) if name}
    return {}


def _names(nodes: Sequence[Node]) -> list[str]:
    """Those that are no plain name keep their place under one that nothing else has."""
    return [node.name if isinstance(node, Name) else f"line {place}" for place, node in enumerate(nodes)]
