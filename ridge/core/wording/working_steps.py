"""The steps of a working in words: a sentence, equations, a table or a matrix of numbers that are written out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import singledispatch
from typing import Literal

from ridge.core.formula.tree import Call, Name, Negative, Node, Operation, substitute
from ridge.core.numerals import NumberText
from ridge.core.results.numbers_traced import Traced, numbers_traced
from ridge.core.results.steps import (
    Check,
    Coefficients,
    Equation,
    Exact,
    Kind,
    Matrix,
    ModelEquation,
    Origin,
    Step,
    System,
    Table,
    Values,
)
from ridge.core.results.steps import (
    Operation as RowOperation,
)
from ridge.core.wording.equation import in_order, write_equation, write_symbols
from ridge.core.wording.exact_numbers import NumberForm, Written, number_node, write_exact
from ridge.core.wording.naming import Naming
from ridge.core.wording.working_sentences import TITLES, Teller, sentence_of
from ridge.core.wording.working_symbols import Line, Symbols, matrix_symbol

FIRST, LAST = 8, 3
"""Rows and columns of a long table that are shown at its beginning and at its end."""
MOST_WHOLE = 14
"""Rows up to which it is shown whole."""
MOST_LINES = 8
"""Equations of readings that are written out."""
_MARK = 0xE000
"""The first of the signs (Unicode's private use area) behind numbers that are to be found again in an equation."""


@dataclass(frozen=True)
class Grid:
    """A table or a matrix. ``rows`` and ``columns``: which of the step's are shown, from 0; ``cells`` of these. ``bar``: columns behind a
    bar; ``marked``: cells that are pointed out, in the step's own rows and columns; ``marked_row`` likewise. ``sums``: the foot."""

    look: Literal["table", "matrix"]
    symbol: Line
    heads: tuple[Line, ...]
    labels: tuple[Line, ...]
    rows: tuple[int, ...]
    columns: tuple[int, ...]
    count: int
    cells: tuple[tuple[Written | None, ...], ...]
    sums: tuple[Written | None, ...] = ()
    bar: int = 0
    marked: tuple[tuple[int, int], ...] = ()
    marked_row: int | None = None
    zero_rows: int = 0


@dataclass(frozen=True)
class NumbersLine(Line):
    """An equation; ``marked``: its LaTeX with each number of the step in the group ``\\htmlData{number=…}``, counted from 0."""

    marked: str = ""


@dataclass(frozen=True)
class LineNumber:
    """A number of a step's lines as it is written, and where it was made."""

    text: str
    traced: Traced


@dataclass(frozen=True)
class WordedStep:
    """A step in words. ``holds``: of a check, whether it does; ``numbers``: those of its lines, and where they were made."""

    name: str
    kind: Kind
    sentence: str
    lines: tuple[Line, ...]
    grid: Grid | None
    folded: bool
    holds: bool | None
    origins: tuple[Origin, ...]
    numbers: tuple[LineNumber, ...] = ()


def title_of(what: str) -> str:
    """What the working is called."""
    return TITLES[what]


def word_steps(steps: Sequence[Step], naming: Naming, form: NumberForm) -> tuple[WordedStep, ...]:
    traced = numbers_traced(steps)
    return tuple(_worded(step, numbers, naming, form) for step, numbers in zip(steps, traced, strict=True))


def _worded(step: Step, numbers: Mapping[str, Traced], naming: Naming, form: NumberForm) -> WordedStep:
    symbols = Symbols(naming, step.facts)
    tell = Teller(naming, form, symbols)
    lines, grid = _shown(step, tell)
    holds = step.holds if isinstance(step, Check) else None
    values = step.given.values() if isinstance(step, Equation) else getattr(step, "values", ()) if numbers else ()
    told = tuple(
        LineNumber(write_exact(value, form).number.text, traced)
        for value, traced in zip(values, numbers.values(), strict=True)
    )
    return WordedStep(
        step.name, step.kind, sentence_of(step, tell), lines, grid, step.folded, holds, step.origins, told
    )


Shown = tuple[tuple[Line, ...], Grid | None]


def _equal(names: Sequence[Node], values: Sequence[Exact], tell: Teller) -> tuple[Line, ...]:
    """A line for each name with its number."""
    lines = []
    for place, (name, value) in enumerate(zip(names, values, strict=True)):
        left, written = tell.symbols.line(name), write_exact(value, tell.form)
        sign, latex_sign = ("≈", r"\approx") if written.rounded else ("=", "=")
        head, number = f"{left.latex} {latex_sign} ", written.number.latex
        lines.append(
            NumbersLine(f"{left.text} {sign} {written.number.text}", head + number, head + _in_group(number, place))
        )
    return tuple(lines)


def _in_group(latex: str, place: int) -> str:
    return rf"\htmlData{{number={place}}}{{{latex}}}"


def _and_more(count: int) -> Line:
    return Line(f"… and {count} more", rf"\text{{… and {count} more}}")


@singledispatch
def _shown(step: Step, tell: Teller) -> Shown:
    """Equations and table of a step of this kind."""
    return (), None


@_shown.register
def _(step: Equation, tell: Teller) -> Shown:
    symbols, texts = tell.symbols, dict[str, NumberText]()
    alone = isinstance(step.formula, Name)
    numbers = {name: number_node(value, tell.form, texts, step.tidy or alone) for name, value in step.given.items()}
    left = symbols.line(substitute(step.left, numbers) if step.numbers_only else step.left, texts)
    parts = [left]
    marked = {}
    if step.formula is not None:
        in_letters = symbols.line(step.formula, texts)
        filled = symbols.line(_filled(step.formula, numbers, step.tidy), texts)
        marked[filled.latex] = _with_groups(step, tell, filled.latex)
        if not step.numbers_only:
            parts.append(in_letters)
        if step.numbers_only or (step.given and filled.text != in_letters.text):
            parts.append(filled)
    text, latex, end = " = ".join(part.text for part in parts), " = ".join(part.latex for part in parts), ""
    if step.result is not None:
        written = write_exact(step.result, tell.form)
        if written.number.text != parts[-1].text:
            sign, latex_sign = (" ≈ ", r" \approx ") if written.rounded else (" = ", " = ")
            text, end = text + sign + written.number.text, latex_sign + written.number.latex
    latex += end
    return (NumbersLine(text, latex, " = ".join(marked.get(part.latex, part.latex) for part in parts) + end),), None


def _with_groups(step: Equation, tell: Teller, plain: str) -> str:
    """The formula with its numbers, each in a group of its own; as ``plain`` as it was where a group would change it."""
    assert step.formula is not None
    texts, alone = dict[str, NumberText](), isinstance(step.formula, Name)
    marks = [chr(_MARK + place) for place in range(len(step.given))]
    numbers = {
        name: number_node(value, tell.form, texts, step.tidy or alone, mark)
        for mark, (name, value) in zip(marks, step.given.items(), strict=True)
    }
    latex = tell.symbols.line(_filled(step.formula, numbers, step.tidy), texts).latex
    if latex.translate(dict.fromkeys(map(ord, marks))) != plain:
        return plain
    for number in texts.values():
        latex = latex.replace(number.latex, _in_group(number.latex[:-1], ord(number.latex[-1]) - _MARK))
    return latex


def _filled(tree: Node, numbers: Mapping[str, Node], tidy: bool) -> Node:
    """The tree with numbers for its names. Not ``tidy``: just where the names stood, and nothing is simplified."""
    if tidy:
        return substitute(tree, numbers)
    match tree:
        case Name(name):
            return numbers.get(name, tree)
        case Operation(sign, left, right):
            return Operation(sign, _filled(left, numbers, tidy), _filled(right, numbers, tidy))
        case Negative(part):
            return Negative(_filled(part, numbers, tidy))
        case Call(function, arguments):
            return Call(function, tuple(_filled(argument, numbers, tidy) for argument in arguments))
    return tree


@_shown.register
def _(step: ModelEquation, tell: Teller) -> Shown:
    if step.values is None:
        return (Line(*write_symbols(step.model, tell.naming)),), None
    if any("/" in write_exact(value, tell.form).number.plain for value in step.values.values()):
        return (_with_fractions(step, tell),), None
    numbers = {name: write_exact(value, tell.form).number for name, value in step.values.items()}
    return (Line(*write_equation(step.model, numbers, tell.naming)),), None


def _with_fractions(step: ModelEquation, tell: Teller) -> Line:
    """The equation with fractions for its parameters."""
    texts: dict[str, NumberText] = {}
    values = step.values or {}
    tree = in_order(step.model, tell.naming)
    numbers = {name: number_node(value, tell.form, texts, True) for name, value in values.items()}
    left, right = tell.symbols.of("y"), tell.symbols.line(substitute(tree, numbers), texts)
    return Line(f"{left.text} = {right.text}", f"{left.latex} = {right.latex}")


@_shown.register
def _(step: Coefficients, tell: Teller) -> Shown:
    return _equal(step.names, step.values, tell), None


@_shown.register
def _(step: System, tell: Teller) -> Shown:
    lines = []
    shown = range(len(step.rows))
    if len(step.rows) > MOST_LINES + 1:
        shown = range(MOST_LINES)
    for row in shown:
        terms, latex_terms = [], []
        for unknown, value in zip(step.unknowns, step.rows[row], strict=True):
            letter, number = tell.symbols.line(unknown), write_exact(value, tell.form).number
            held, held_latex = _held(number)
            terms.append(f"{letter.text}·{held}")
            latex_terms.append(rf"{letter.latex} \cdot {held_latex}")
        right = write_exact(step.right[row], tell.form).number
        lines.append(Line(f"{' + '.join(terms)} = {right.text}", f"{' + '.join(latex_terms)} = {right.latex}"))
    left_out = len(step.rows) - len(shown)
    if left_out:
        lines.append(_and_more(left_out))
    return tuple(lines), None


def _places(count: int) -> tuple[int, ...]:
    """Which rows or columns are shown."""
    return tuple(range(count)) if count <= MOST_WHOLE else (*range(FIRST), *range(count - LAST, count))


def _number(value: Exact | None, tell: Teller) -> Written | None:
    return None if value is None else write_exact(value, tell.form)


def _row_label(step: Table | Matrix, row: int, tell: Teller) -> Line:
    """What stands before a row: what it is about, or the number of its reading."""
    if step.labels:
        return tell.symbols.line(step.labels[row])
    label = str(step.rows_of[row] + 1) if step.rows_of else ""
    return Line(label, label)


@_shown.register
def _(step: Table, tell: Teller) -> Shown:
    rows = _places(len(step.rows))
    columns = _places(len(step.headings))
    labels = tuple(_row_label(step, row, tell) for row in rows)
    grid = Grid(
        "table", Line("", ""), tuple(tell.symbols.line(step.headings[column]) for column in columns), labels, rows, columns,
        len(step.rows), tuple(tuple(_number(step.rows[row][column], tell) for column in columns) for row in rows),
        tuple(_number(step.sums[column], tell) for column in columns) if step.sums else (), marked_row=step.marked_row,
    )  # fmt: skip
    return (), grid


@_shown.register
def _(step: Values, tell: Teller) -> Shown:
    return _equal(step.headings, step.values, tell), None


@_shown.register
def _(step: Matrix, tell: Teller) -> Shown:
    width = len(step.rows[0]) if step.rows else 0
    rows, columns = _places(len(step.rows)), _places(width)
    heads = tuple(tell.symbols.line(step.headings[column]) for column in columns) if step.headings else ()
    labels = tuple(_row_label(step, row, tell) for row in rows)
    grid = Grid(
        "matrix", matrix_symbol(step.symbol), heads, labels, rows, columns, len(step.rows),
        tuple(tuple(_number(step.rows[row][column], tell) for column in columns) for row in rows), (), step.bar, step.marked,
        zero_rows=step.more,
    )  # fmt: skip
    return (), grid


@_shown.register
def _(step: RowOperation, tell: Teller) -> Shown:
    target, source = _row_name(step.target), _row_name(step.source)
    if step.how == "swap":
        line = Line(f"{target.text} ↔ {source.text}", rf"{target.latex} \leftrightarrow {source.latex}")
    elif step.how == "scale":
        held, latex = _held(write_exact(step.factor, tell.form).number)
        line = Line(f"{target.text} ← {held}·{target.text}", rf"{target.latex} \leftarrow {latex} \cdot {target.latex}")
    else:
        sign, latex_sign = ("−", "-") if step.factor > 0 else ("+", "+")
        number = write_exact(max(step.factor, -step.factor), tell.form).number
        times, latex = ("", "") if number.plain == "1" else (f"{number.text}·", rf"{number.latex} \cdot ")
        line = Line(
            f"{target.text} ← {target.text} {sign} {times}{source.text}",
            rf"{target.latex} \leftarrow {target.latex} {latex_sign} {latex}{source.latex}",
        )
    columns = tuple(range(len(step.rows[0])))
    heads = tuple(tell.symbols.line(heading) for heading in step.headings)
    rows = tuple(range(len(step.rows)))
    labels = tuple(_row_name(row) for row in rows)
    cells = tuple(tuple(_number(value, tell) for value in row) for row in step.rows)
    return (line,), Grid(
        "matrix", Line("", ""), heads, labels, rows, columns, len(rows), cells, (), step.bar, marked_row=step.target
    )


def _row_name(row: int) -> Line:
    lowered = str(row + 1).translate(str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉"))
    return Line(f"R{lowered}", f"R_{{{row + 1}}}")


def _held(number: NumberText) -> tuple[str, str]:
    if number.text.startswith("−") or "/" in number.text:
        return f"({number.text})", rf"\left({number.latex}\right)"
    return number.text, number.latex


@_shown.register
def _(step: Check, tell: Teller) -> Shown:
    """Both sides beside each other; of many, the first ones."""
    lines = []
    for place, (heading, left, right) in enumerate(zip(step.headings, step.left, step.right, strict=True)):
        if place == MOST_LINES and len(step.left) > MOST_LINES + 1:
            lines.append(_and_more(len(step.left) - place))
            break
        mine, other = write_exact(left, tell.form).number, write_exact(right, tell.form).number
        head = tell.symbols.line(heading)
        if step.at:
            x, number = tell.symbols.of("x"), write_exact(step.at[place], tell.form).number
            head = Line(f"{x.text} = {number.text}", rf"{x.latex} = {number.latex}")
        equal = left == right or (step.holds and mine.text == other.text)
        sign, latex_sign = ("=", "=") if equal else ("≈", r"\approx") if step.holds else ("≠", r"\ne")
        lines.append(
            Line(
                f"{head.text}: {mine.text} {sign} {other.text}",
                rf"{head.latex}:\quad {mine.latex} {latex_sign} {other.latex}",
            )
        )
    return tuple(lines), None
