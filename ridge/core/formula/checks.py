"""What can be said of a formula before it is fitted, and of its parts at the readings."""

from __future__ import annotations

import difflib
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from lark import Token

from ridge.core.formula.derivative import differentiate
from ridge.core.formula.functions import ALIASES, FUNCTIONS
from ridge.core.formula.parse import Parsed, same_name, tokens_of
from ridge.core.formula.program import Program
from ridge.core.formula.tree import ZERO, Call, Comparison, Constant, Name, Node, Number, contains, walk
from ridge.core.formula.writing import to_latex, to_text
from ridge.core.numerals import significant
from ridge.core.readings import Array, Readings

FAR_OUT = 1e4
"""How many times the spread of the readings a curve may be away before it is called out of scale."""


@dataclass(frozen=True)
class Note:
    """Something about a formula. ``position`` and ``length``: the place in the text, None where there is none.

    ``rows``: 0-based rows of the readings that it is about.
    """

    code: str
    message: str
    position: int | None = None
    length: int = 0
    rows: tuple[int, ...] = ()


@dataclass(frozen=True)
class Part:
    """A part of a formula on its own: how it is written, and its value at each reading, NaN where it has none."""

    text: str
    latex: str
    values: Array


def check_text(text: str, parsed: Parsed, listed: tuple[str, ...] = (), fitted: str = "") -> list[Note]:
    """Notes that need no readings. ``listed``: parameters that the user has set up, to tell which are not used; ``fitted``: the symbol
    of what the curve is fitted to."""
    notes: list[Note] = []
    variable = parsed.variable
    if not contains(parsed.tree, {variable}):
        joined = next((name for name in parsed.names if len(name) > 1 and variable in name and name.isalpha()), "")
        hint = f" {joined} is read as one name: write {'*'.join(joined)} for a product." if joined else ""
        notes.append(Note("no-variable", f"{variable} does not occur, so the curve is level.{hint}"))
    for name in listed:
        if same_name(name) not in {same_name(known) for known in parsed.names}:
            notes.append(Note("unused", f"{name} does not occur in the formula."))
    for name in parsed.names:
        if differentiate(parsed.tree, name) == ZERO:
            notes.append(Note("no-effect", f"{name} has no effect on the value.", *_place(text, name)))
        if fitted and same_name(name) == same_name(fitted):
            said = f"{name} is taken for a parameter, though {fitted} is what is fitted; choose another letter for one of them."
            notes.append(Note("is-fitted", said, *_place(text, name)))
        notes += _reserved(text, name)
    if any(isinstance(part, Constant) and part.name == "e" for part in walk(parsed.tree)):
        notes.append(
            Note(
                "euler",
                "e stands for Euler's number 2.718…; choose another letter for a parameter.",
                *_place(text, "e"),
            )
        )
    return notes + _after_divisions(text)


def _after_divisions(text: str) -> list[Note]:
    """Products right behind a division: ``u/v*w`` is (u/v)·w, and perhaps u/(v·w) is meant."""
    notes, tokens = [], tokens_of(text)
    for i, token in enumerate(tokens):
        if token.type != "OVER":
            continue
        end = _past_factor(tokens, i + 1)
        if tokens[i + 1].type == "LPAR" or end >= len(tokens) or tokens[end].type not in ("TIMES", *_BEGINNINGS):
            continue
        last = tokens[_past_factor(tokens, end + (tokens[end].type == "TIMES")) - 1]
        start, stop = token.start_pos or 0, (last.start_pos or 0) + len(last)
        inner = text[start + 1 : stop].strip()
        divisor = text[start + 1 : (tokens[end - 1].start_pos or 0) + len(tokens[end - 1])].strip()
        notes.append(
            Note(
                "product-after-division",
                f"'/{inner}' divides by {divisor} only: from left to right. Put brackets around the whole denominator, "
                f"/({inner}), if it is meant.",
                start, stop - start,
            )
        )  # fmt: skip
    return notes


_BEGINNINGS = ("NAME", "NUMBER", "LPAR", "FUNCTION", "IF")


def _past_factor(tokens: Sequence[Token], i: int) -> int:
    """The place behind the factor that begins at ``i``: a sign, a name, number or bracket, and its power."""
    while i < len(tokens) and tokens[i].type in ("PLUS", "MINUS"):
        i += 1
    if i < len(tokens) and tokens[i].type in ("FUNCTION", "IF"):
        i += 1
        while i < len(tokens) and tokens[i].type in ("_HAT", "RAISED", "NUMBER"):
            i += 1
    depth = 0
    while i < len(tokens):
        depth += {"LPAR": 1, "RPAR": -1}.get(tokens[i].type, 0)
        i += 1
        if depth == 0:
            break
    if i < len(tokens) and tokens[i].type == "RAISED":
        return i + 1
    return _past_factor(tokens, i + 1) if i < len(tokens) and tokens[i].type == "_HAT" else i


def meant_variable(parsed: Parsed, called: Sequence[str]) -> str:
    """The parameter that probably stands for the variable of a formula in which that does not occur; empty if none.

    ``called``: what else the variable is called, such as the name of its column. Besides these the same letter in the other
    case and the usual x and t.
    """
    if contains(parsed.tree, {parsed.variable}):
        return ""
    wanted = [parsed.variable, *(word for name in called for word in (name, name.replace(" ", ""))), "x", "t", "time"]
    for word in wanted:
        for name in parsed.names:
            if word and same_name(name).casefold() == same_name(word).casefold():
                return name
    return ""


def _place(text: str, name: str) -> tuple[int, int]:
    match = re.search(rf"(?<![\w.]){re.escape(name)}(?!\w)", text)
    return (match.start() if match else 0), len(name)


def _reserved(text: str, name: str) -> list[Note]:
    if len(name) < 3:
        return []
    near = difflib.get_close_matches(name.lower(), [*FUNCTIONS, *ALIASES], n=1, cutoff=0.75)
    if not near:
        return []
    message = f"{name} is taken for a parameter. Did you mean the function {near[0]}(…)?"
    return [Note("like-a-function", message, *_place(text, name))]


def check_at(parsed: Parsed, readings: Readings, values: Mapping[str, float]) -> list[Note]:
    """Notes on the formula at the readings for given parameters: where it has no value, and whether it is out of scale.

    The innermost part that has no value is named.
    """
    used = readings.used
    x, y = readings.x[used], readings.y[used]
    found = _values(parsed.tree, parsed, x, values)
    notes: list[Note] = []
    wrong = ~np.isfinite(found)
    if wrong.any():
        rows = tuple(np.flatnonzero(used)[wrong].tolist())
        culprit = _innermost(parsed, x[wrong][:1], values)
        shown = ", ".join(str(row + 1) for row in rows[:5]) + (f" and {len(rows) - 5} more" if len(rows) > 5 else "")
        notes.append(
            Note("undefined", f"{culprit} has no value at row{'s' if len(rows) > 1 else ''} {shown}.", rows=rows)
        )
    elif len(y):
        spread = float(np.ptp(y)) or float(np.max(np.abs(y))) or 1.0
        off = float(np.median(np.abs(found - y)))
        size = float(np.max(np.abs(found)))
        if off > FAR_OUT * spread:
            notes.append(
                Note(
                    "out-of-scale",
                    f"With these parameters the curve lies about {significant(off / spread, 1).text} times the range of y away from the readings.",
                )
            )
        elif size < float(np.max(np.abs(y))) / FAR_OUT:
            notes.append(Note("out-of-scale", "With these parameters the curve is negligible beside the readings."))
    return notes


def _innermost(parsed: Parsed, x: Array, values: Mapping[str, float]) -> str:
    culprit = to_text(parsed.tree)
    for part in walk(parsed.tree):
        if isinstance(part, Number | Name | Constant | Comparison):
            continue
        if not np.isfinite(_values(part, parsed, x, values)).all():
            culprit = to_text(part)
    return culprit


def _values(node: Node, parsed: Parsed, x: Array, values: Mapping[str, float]) -> Array:
    names = tuple(parsed.names)
    with np.errstate(all="ignore"):
        found = Program([node], (parsed.variable, *names))(x, *(np.float64(values[name]) for name in names))[0]
    return np.array(np.broadcast_to(found, x.shape), dtype=np.float64)


def parts_at(parsed: Parsed, readings: Readings, values: Mapping[str, float]) -> list[Part]:
    """Every part of the formula that holds the variable or a function, the whole first, each with a value per reading."""
    parts: list[Part] = []
    seen: set[Node] = set()
    for node in walk(parsed.tree):
        plain = isinstance(node, Number | Name | Constant | Comparison)
        if plain or node in seen or not (contains(node, {parsed.variable}) or isinstance(node, Call)):
            continue
        seen.add(node)
        parts.append(Part(to_text(node), to_latex(node), _values(node, parsed, readings.x, values)))
    return parts
