"""The report of a study: its page as blocks, in the order and with the parts that are wanted."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Literal

import numpy as np

from ridge.core.wording.numbers import capital, group, significant
from ridge.core.wording.references import references
from ridge.exchange.figure import CannotDraw, draw
from ridge.exchange.report.content import Block, Formula, Grid, Heading, Listing, Paragraph, Picture, Report
from ridge.studies.calculated import calculate
from ridge.studies.data import heading
from ridge.studies.figure import figure_content
from ridge.studies.fits import fit_all
from ridge.studies.readings import Status, read_table
from ridge.studies.schemas import AnalysisOut, AnswerOut, FitOut, ParameterOut
from ridge.studies.state import ReportPart, StudyState

MOST_ROWS = 200
"""Rows of readings that a report holds; of more it has a summary."""
FIGURE_WIDTH = 160.0
RESOLUTION = 220
STATISTICS = (
    "r_squared", "adjusted_r_squared", "residual_standard_deviation", "residual_sum_of_squares", "degrees_of_freedom",
)  # fmt: skip


def report_of(state: StudyState, analysis: AnalysisOut, picture: Literal["svg", "png"] = "svg") -> Report:
    """The report with the parts that are shown, its figure drawn as ``picture``."""
    blocks: list[Block] = []
    for part in state.report:
        if not part.shown:
            continue
        blocks += (
            _figure(state, analysis, picture) if part.part == "figure" else _PARTS[part.part](state, analysis, part)
        )
    return Report(state.title, state.author, state.date, tuple(blocks))


def _question(state: StudyState, _: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    if state.question:
        yield Paragraph(state.question, "lead")


def _own(_: StudyState, __: AnalysisOut, part: ReportPart) -> Iterator[Block]:
    if part.heading:
        yield Heading(part.heading)
    for text in part.text.split("\n\n"):
        if text.strip():
            yield Paragraph(text.strip())


def _figure(state: StudyState, analysis: AnalysisOut, picture: Literal["svg", "png"]) -> Iterator[Block]:
    try:
        image = draw(replace(figure_content(state, analysis), title=""), picture, FIGURE_WIDTH, RESOLUTION, False)
    except CannotDraw as reason:
        yield Paragraph(str(reason), "note")
        return
    fits = "; ".join(f"{fit.letter}, {_name(fit)}: {fit.equation_text}".rstrip(": ") for fit in _drawn(analysis))
    # The residuals below the plot are those of the leading fit.
    below = f" Below: residuals of {_drawn(analysis)[0].letter}." if _drawn(analysis) else ""
    caption = f"{analysis.summary}. {fits}." if fits else f"{analysis.summary}."
    alternative = f"Plot of {analysis.naming.y} against {analysis.naming.x}: {caption}{below}"
    yield Picture(image, alternative, caption, FIGURE_WIDTH)


def _name(fit: FitOut) -> str:
    return fit.label or fit.name


def _title(fit: FitOut, analysis: AnalysisOut) -> str:
    """``B, cubic``; of a fit that stands alone its name."""
    return _called(fit, analysis).rstrip(": ") or capital(_name(fit))


def _drawn(analysis: AnalysisOut) -> list[FitOut]:
    return [fit for fit in analysis.fits if not fit.hidden and not fit.refusal]


def _called(fit: FitOut, analysis: AnalysisOut) -> str:
    """What stands before something said of one fit among several."""
    return f"{fit.letter}, {_name(fit)}: " if len(_drawn(analysis)) > 1 else ""


def _model(_: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    shown = [fit for fit in analysis.fits if not fit.hidden]
    if not shown:
        return
    yield Heading("Model" if len(shown) == 1 else "Models")
    for fit in shown:
        if fit.refusal:
            yield Paragraph(f"{_title(fit, analysis)}: {fit.refusal}", "caution")
        elif fit.pieces:
            yield Paragraph(_title(fit, analysis))
            for piece in fit.pieces:
                yield Formula(piece.text, piece.latex)
            if fit.pieces_more:
                yield Paragraph(f"and {fit.pieces_more} more pieces", "note")
        else:
            yield Paragraph(_title(fit, analysis))
            if fit.form_latex and fit.form_text != fit.equation_text:
                yield Formula(fit.form_text, fit.form_latex)
            yield Formula(fit.equation_text, fit.equation_latex)


def _parameters(state: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    shown = [fit for fit in _drawn(analysis) if fit.parameters or fit.derived]
    if not shown:
        return
    yield Heading("Parameters")
    level = significant(state.level * 100, 4, strip=True).text
    for fit in shown:
        # Numbers that were given have no uncertainty, and nothing is said of one.
        estimated = any(p.uncertainty for p in fit.parameters)
        rows = [
            (
                _parameter(p),
                _value(p, fit.kind),
                p.unit,
                *((p.interval.partition(": ")[2],) if estimated else ()),
                p.meaning,
            )
            for p in fit.parameters
        ]
        rows += [(one.name, one.text, "", *(("",) if estimated else ()), "") for one in fit.derived]
        value = ("value ± standard error", "unit", f"{level} % interval") if estimated else ("value", "unit")
        numeric = (False, True, False, True, False) if estimated else (False, True, False, False)
        yield Grid(_called(fit, analysis).rstrip(": "), ("", *value, "meaning"), tuple(rows), numeric)
        if fit.plus_minus:
            yield Paragraph(fit.plus_minus, "note")


def _value(parameter: ParameterOut, kind: str) -> str:
    return f"{parameter.value} (fixed)" if parameter.fixed and kind == "fit" else parameter.text


def _parameter(parameter: ParameterOut) -> str:
    """``slope m``; a letter alone where the name is no more than that."""
    name = parameter.name.replace("_", " ")
    return parameter.symbol if name == parameter.symbol or name[1:].isdigit() else f"{name} {parameter.symbol}"


def _judgement(_: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    drawn = _drawn(analysis)
    if not drawn:
        return
    yield Heading("How well it fits" if len(drawn) == 1 else "How well they fit")
    for fit in drawn:
        yield Paragraph(f"{_called(fit, analysis)}{fit.how_well}")
    measured = [fit for fit in drawn if fit.statistics]
    if not measured:
        return
    labels = {row.name: row for fit in measured for row in fit.statistics if row.name in STATISTICS}
    values = {fit.letter: {row.name: f"{row.value} {row.unit}".strip() for row in fit.statistics} for fit in measured}
    # Where some are in logarithms and some in y, no one meaning holds for all.
    alike = len({fit.least_squares_in == "logarithms" for fit in measured}) == 1
    rows = [
        (row.label, *(values[fit.letter].get(name, "–") for fit in measured), row.meaning if alike else "")
        for name, row in labels.items()
    ]
    head = ("", *(fit.letter if len(measured) > 1 else "" for fit in measured), "meaning")
    yield Grid("", head, tuple(rows), (False, *(True for _ in measured), False))


def _answers(state: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    unknowns = [(unknown.label, unknown.answer) for unknown in analysis.unknowns]
    kept = [(answer.name, answer) for answer in analysis.answers]
    if not unknowns and not kept:
        return
    yield Heading("Answers")
    for name, answer in (*unknowns, *kept):
        yield from _answer(name, answer)


def _answer(name: str, answer: AnswerOut) -> Iterator[Block]:
    called = f"{name}: " if name else ""
    if answer.problem:
        yield Paragraph(f"{called}{answer.asked}: {answer.problem}".replace(": :", ":"), "caution")
    elif len(answer.rows) > 1:
        rows = tuple(
            (f"{row.asked} {row.letter}".strip(), row.result or row.problem, row.curve, row.new, row.place)
            for row in answer.rows
        )
        head, numeric = (
            ["asked", "answer", "confidence interval, curve", "prediction interval, new reading", "position"],
            [False, True, True, True, False],
        )
        kept = [place for place in range(len(head)) if place < 2 or any(row[place] for row in rows)]
        yield Grid(
            f"{called}{answer.asked}".rstrip(": "),
            tuple(head[place] for place in kept),
            tuple(tuple(row[place] for place in kept) for row in rows),
            tuple(numeric[place] for place in kept),
        )
    else:
        said = " ".join(part for part in (answer.sentence, answer.place, answer.beyond_says) if part)
        yield Paragraph(f"{called}{answer.asked}: {answer.result}. {said}".replace(".. ", ". ").strip())


def _cautions(_: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    found = [
        f"{_called(fit, analysis)}{caution.message} {caution.remedy}".strip()
        for fit in _drawn(analysis)
        for caution in fit.cautions
    ]
    if found:
        yield Heading("Cautions")
        yield from (Paragraph(text, "caution") for text in found)


def _readings(state: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    rows = state.filled_rows
    if not rows:
        return
    yield Heading("Readings")
    yield Paragraph(analysis.summary + ".", "note")
    if rows > MOST_ROWS:
        yield _summary(state)
        return
    table, calculated = read_table(state), calculate(state)
    cells = [calculated[c.key].texts if c.key in calculated else c.cells for c in state.columns]
    numeric = [column.role != "series" and column.role != "other" for column in state.columns]
    said = [_said(state, row, Status(int(table.status[row]))) for row in range(rows)]
    head = ["row", *(heading(c.name, c.symbol, c.unit) for c in state.columns)]
    lines = [(str(row + 1), *(column[row] if row < len(column) else "" for column in cells)) for row in range(rows)]
    if any(said):
        head.append("")
        lines = [(*line, word) for line, word in zip(lines, said, strict=True)]
    yield Grid("", tuple(head), tuple(lines), (True, *numeric, False)[: len(head)])


def _said(state: StudyState, row: int, status: Status) -> str:
    """What is to be said of a row that is not simply in use."""
    if row in state.aside:
        return f"set aside: {state.aside[row]}".removesuffix(": ")
    if row in state.assumed:
        return f"assumed: {state.assumed[row]}".removesuffix(": ")
    return {Status.PROBLEM: "unusable", Status.UNKNOWN: "unknown"}.get(status, "")


def _summary(state: StudyState) -> Grid:
    """Extremes, mean and standard deviation of the readings in use."""
    table = read_table(state)
    readings, naming = table.readings, table.naming
    used = table.status == Status.USED
    rows = []
    for values, symbol, unit in (
        (readings.x[used], naming.x, naming.x_unit),
        (readings.y[used], naming.y, naming.y_unit),
    ):
        numbers = (values.min(), values.max(), values.mean(), values.std(ddof=1)) if len(values) > 1 else ()
        said = [significant(float(number), 5, strip=True).text for number in numbers] or ["–"] * 4
        rows.append((heading("", symbol, unit), group(str(int(np.count_nonzero(used)))), *said))
    head = ("", "readings", "minimum", "maximum", "mean", "standard deviation")
    return Grid("", head, tuple(rows), (False, True, True, True, True, True))


def _method(state: StudyState, analysis: AnalysisOut, __: ReportPart) -> Iterator[Block]:
    drawn = _drawn(analysis)
    if not drawn:
        return
    yield Heading("Method")
    for fit in drawn:
        yield Paragraph(f"{_called(fit, analysis)}{fit.method}")
        if fit.rounding:
            yield Paragraph(f"{_called(fit, analysis)}{fit.rounding}", "note")
    shown = {fit.letter for fit in drawn}
    fitted = [one for one in fit_all(read_table(state), state.fits) if one.wanted.letter in shown]
    curves = [one.curve for one in fitted if one.curve is not None]
    asked_x = bool(analysis.unknowns) or any(answer.direction == "x_at_y" for answer in analysis.answers)
    if works := references(curves, inverse=asked_x):
        yield Listing(tuple(works))


_PARTS: dict[str, Callable[[StudyState, AnalysisOut, ReportPart], Iterator[Block]]] = {
    "question": _question,
    "model": _model,
    "parameters": _parameters,
    "judgement": _judgement,
    "answers": _answers,
    "cautions": _cautions,
    "readings": _readings,
    "method": _method,
    "own": _own,
}
