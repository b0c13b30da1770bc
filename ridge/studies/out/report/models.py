"""The fits in a report: their equations, their parameters and what follows from them."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ridge.core.numerals import significant, write
from ridge.core.wording.equation import with_errors
from ridge.exchange.report.content import (
    NUMBER,
    TEXT,
    Block,
    Formula,
    Grid,
    Heading,
    Kind,
    Paragraph,
    Text,
    joined,
    symbol,
)
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.source import Source
from ridge.studies.words.fit_schemas import ComputedFit, FittedFit, InterpolationFit, ParameterOut, RefusedFit


def model(source: Source, _: ReportPart) -> Iterator[Block]:
    """Each fit with its form and its equation, or why there is none."""
    if not source.shown:
        return
    yield Heading("Model" if len(source.shown) == 1 else "Models")
    for fit in source.shown:
        if isinstance(fit, RefusedFit):
            yield Paragraph(f"{source.title(fit)}: {fit.refusal}", "caution")
            continue
        yield Paragraph(source.title(fit), "title")
        if isinstance(fit, InterpolationFit):
            yield from _pieces(fit)
            continue
        if fit.form_text != fit.equation_text:
            yield Formula(fit.form_text, fit.form_latex)
        yield Formula(fit.equation_text, fit.equation_latex)


def _pieces(fit: InterpolationFit) -> Iterator[Block]:
    for piece in fit.pieces:
        yield Formula(piece.text, piece.latex)
    if fit.pieces_more:
        yield Paragraph(f"and {fit.pieces_more} more pieces", "note")


def equation_errors(source: Source, _: ReportPart) -> Iterator[Block]:
    """Each equation with the standard error of every parameter in its place."""
    fitted = [(fit, found) for fit in source.computed if (found := source.fit(fit.letter)) and fit.plus_minus]
    if not fitted:
        return
    yield Heading("Equation with standard errors" if len(fitted) == 1 else "Equations with standard errors")
    for fit, found in fitted:
        if source.called(fit):
            yield Paragraph(source.title(fit), "title")
        yield Formula(*with_errors(found, source.table.naming))


def parameters(source: Source, _: ReportPart) -> Iterator[Block]:
    """A table a fit: value, standard error, unit, interval and meaning of each parameter and of what follows from it."""
    shown = [fit for fit in source.computed if fit.parameters or fit.derived]
    if not shown:
        return
    yield Heading("Parameters")
    level = significant(source.state.level * 100, 4, strip=True).text
    for fit in shown:
        # Numbers that were given have no uncertainty, and nothing is said of one.
        estimated = any(p.uncertainty or p.asymmetric for p in fit.parameters)
        rows: list[tuple[Text, ...]] = [
            (_called(p), _value(p, isinstance(fit, FittedFit)), p.unit, p.limits, p.meaning) for p in fit.parameters
        ]
        rows += [
            (one.name, one.value, one.unit, one.interval, one.meaning or one.formula)
            for one in fit.derived
            if not one.problem
        ]
        caption = f"Parameters{source.of(fit)}."
        head: tuple[Text, ...] = ("quantity", "value ± standard error", "unit", f"{level}\u00a0% limits", "meaning")
        kinds: tuple[Kind, ...] = (TEXT, NUMBER, TEXT, NUMBER, TEXT)
        if not estimated:
            head = ("quantity", "value", *head[2:])
        # Of own formulas neither meaning nor, as a rule, unit is known.
        kept = [place for place in range(len(head)) if place < 2 or any(row[place] for row in rows)]
        head, kinds = tuple(head[place] for place in kept), tuple(kinds[place] for place in kept)
        rows = [tuple(row[place] for place in kept) for row in rows]
        yield Grid(f"{caption} {fit.plus_minus}".strip(), head, tuple(rows), kinds)
        for one in fit.derived:
            if one.agreement or one.remark:
                yield Paragraph(f"{one.name}: {' '.join(said for said in (one.agreement, one.remark) if said)}")


def _value(parameter: ParameterOut, estimated: bool) -> str:
    return f"{parameter.value} (fixed)" if parameter.fixed and estimated else parameter.text


def _called(parameter: ParameterOut) -> Text:
    """``slope`` *m*; a letter alone where the name is no more than that."""
    name = parameter.name.replace("_", " ")
    letter = symbol(parameter.symbol)
    return letter if name == parameter.symbol or name[1:].isdigit() else joined(f"{name} ", letter)


def correlations(source: Source, _: ReportPart) -> Iterator[Block]:
    """How the estimates of the parameters hang together."""
    shown = [(fit, rows) for fit in source.computed if (rows := _correlated(source, fit))]
    if not shown:
        return
    yield Heading("Correlations of the parameters")
    for fit, rows in shown:
        letters = [row[0] for row in rows]
        caption = f"Correlation coefficients of the estimates{source.of(fit)}."
        yield Grid(caption, ("parameter", *letters), tuple(rows), (TEXT, *[NUMBER] * len(letters)))


def _correlated(source: Source, fit: ComputedFit) -> list[tuple[Text, ...]]:
    found = source.fit(fit.letter)
    if found is None:
        return []
    places = [place for place, one in enumerate(found.parameters.values()) if not one.fixed]
    matrix = found.correlations[np.ix_(places, places)]
    if len(places) < 2 or not np.isfinite(matrix).all():
        return []
    letters = [symbol(fit.parameters[place].symbol) for place in places]
    return [
        (letter, *(write(float(cell), 3).text for cell in row[: place + 1]), *("" for _ in row[place + 1 :]))
        for place, (letter, row) in enumerate(zip(letters, matrix, strict=True))
    ]
