"""Everything that is said of a study, with a decimal comma: what the user typed stays as it is."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from ridge.core.wording.decimal_sign import Typed, as_typed, equation_in_comma, in_comma, latex_in_comma
from ridge.studies.content.state import StudyState

TYPED = frozenset({
    "id", "key", "title", "question", "name", "naming", "symbol", "unit", "series", "formula", "options", "fixed", "given", "form",
    "family", "letter", "letters", "aside", "assumed", "plot", "author", "date", "report", "columns", "settings", "change", "insert",
    "parts", "possible", "follows", "laid", "texts", "student", "credit", "licence", "description",
})  # fmt: skip
"""Fields that hold what a user typed, names, or what comes back to the server as it went out; no number that Ridge has worded."""


EQUATIONS = frozenset({"equation_text", "safe_text", "form_text"})
"""Fields that hold a formula as Ridge writes it."""


def response_in_comma(path: str, data: Any, typed: Typed = None) -> Any:
    """What a route answers, with a decimal comma. Comments, worksheets and their steps are as they were typed; of a class only what
    Ridge computed is turned."""
    if _ALL_TYPED.search(path):
        return data
    if path.startswith("/api/worksheets/") and isinstance(data, dict):
        return {key: data_in_comma(value, typed) if key in ("copies", "said") else value for key, value in data.items()}
    return data_in_comma(data, typed)


_ALL_TYPED = re.compile(r"^/api/(tables|join|worksheets$|shipped_worksheets)|/(comments|task)(/|$)|/worksheet_of_it$")


def typed_in(state: StudyState) -> Typed:
    """What the user typed that may stand in a sentence and holds a number with a point."""
    return as_typed(_typed_texts(state))


def _typed_texts(state: StudyState) -> Iterator[str]:
    yield from (state.title, state.question, state.author, state.date, *state.aside.values(), *state.assumed.values())
    for column in state.columns:
        yield from (column.name, column.symbol, column.unit, column.formula, column.limits_why)
        if column.role == "series":
            yield from set(column.cells)
    for fit in state.fits:
        yield from (fit.name, fit.series, str(fit.options.get("text") or ""))
    yield from (answer.name for answer in state.answers)
    if state.picture is not None:
        yield from (state.picture.credit, state.picture.licence, state.picture.description)
    yield from (text for part in state.report for text in (part.heading, part.text))


def data_in_comma(data: Any, typed: Typed = None, latex: bool = False) -> Any:
    """Plain data, as it goes out as JSON, with a decimal comma in its texts."""
    if isinstance(data, str):
        return latex_in_comma(data) if latex else in_comma(data, typed)
    if isinstance(data, dict):
        return {
            key: _columns_in_comma(value)
            if key == "columns"
            else equation_in_comma(value)
            if key in EQUATIONS and isinstance(value, str)
            else value
            if key in TYPED
            else data_in_comma(value, typed, str(key).endswith("latex"))
            for key, value in data.items()
        }
    if isinstance(data, list | tuple) and not all(one is None or isinstance(one, int | float) for one in data):
        return [data_in_comma(one, typed, latex) for one in data]
    return data


def _columns_in_comma(columns: Any) -> Any:
    """Of columns only what a formula gives is Ridge's own."""
    if not isinstance(columns, list):
        return columns
    return [
        {**one, "cells": data_in_comma(one["cells"]), "patch": data_in_comma(one.get("patch", []))}
        if isinstance(one, dict) and one.get("formula") and one.get("cells") is not None
        else one
        for one in columns
    ]
