"""Changes made at random out of their own types: mostly such as could be meant, now and then nonsense."""

from __future__ import annotations

import random
import string
from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter

from ridge.core.catalogue import defaults_of
from ridge.core.models import FAMILIES
from ridge.studies.content.changes import AnyChange
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.state import FitState, StudyState

_SCHEMA: dict[str, Any] = TypeAdapter(AnyChange).json_schema()
_DEFINED: dict[str, Any] = _SCHEMA["$defs"]
KINDS: dict[str, dict[str, Any]] = {
    kind: _DEFINED[where.rsplit("/", 1)[1]] for kind, where in _SCHEMA["discriminator"]["mapping"].items()
}
_PLOT: dict[str, Any] = PlotSettings.model_json_schema()

_TEXTS = [
    "", "0", "1", "2.5", "-3", "12,5", "1e-30", "-4e30", "12:30", "?", "0.10", "±0.5", "2 %", "note", "α", "م", "x\ny", "=1+1", "1 234", "1/3",
]  # fmt: skip
_FORMULAS = ["2*x + 1", "p*exp(-q*x)", "x^2", "sqrt(y)", "1/", "A(x) + 1", "y - A(x)", ""]
_UNITS = ["", "m", "cm", "s", "min", "h:min", "°C", "K", "%", "kg", "no unit"]
_TABLES = [
    "x\ty\n1\t2\n2\t4\n3\t7", "t;h;k\n0,5;1;2\n1,5;2;3", "1 2\n3 4", "a,b,c,d\n1,2,3,4\n5,6,7,8", "1\n2\n3", "", "no table",
]  # fmt: skip


_CONVERTED = {"m": "cm", "cm": "m", "s": "min", "min": "s", "kg": "g", "mm": "m", "N": "kN", "mA": "A"}


class RandomChanges:
    """A source of changes for whatever state a study is in; the same seed gives the same ones."""

    def __init__(self, seed: int) -> None:
        self._random = random.Random(seed)
        self._state: StudyState | None = None

    def next(self, state: StudyState) -> dict[str, Any]:
        """As a request would carry it."""
        self._state = state
        kind = self._random.choice(sorted(KINDS))
        made: dict[str, Any] = self._of(KINDS[kind], kind)
        if kind == "put_order" and self._often(0.7):
            made["order"] = self._random.sample(range(state.row_count), state.row_count)
        if kind in ("set_cells", "average_repeats") and self._often(0.7):
            made.pop("new_keys", None)
        if kind == "put_table" and self._often(0.7):
            made |= self._table(state)
        if kind == "restore_rows" and self._often(0.7):
            made |= self._rows_to_restore(state)
        if kind == "move_grip" and self._often(0.8):
            made["grip"] = self._grip(state, made["letter"])
        if kind == "convert_column" and self._often(0.7):
            column = self._random.choice(state.columns)
            made |= {"key": column.key, "unit": _CONVERTED.get(column.unit, "mm")}
        if kind == "generate_readings" and self._often(0.7):
            made |= {"low": 0.0, "high": 6.0, "step": self._random.choice((None, 1.0))}
            made["count"] = None if made["step"] else self._random.randrange(1, 9)
        if kind == "take_table" and self._often(0.9):
            width = self._random.choice((1, 2, 3, 4))
            roles = ["x", "y", "other", "other"] if self._often(0.7) else ["y", "x", "y", "x_error"]
            made["columns"] = [{"name": "", "symbol": "", "unit": "", "role": role} for role in roles[:width]]
            for name in ("new_keys", "table", "header", "separator", "decimal"):
                made.pop(name, None)
        return made

    def _table(self, state: StudyState) -> dict[str, Any]:
        """The table of the study in another order and height, with all that is put back with it, or without."""
        height = self._random.randrange(state.row_count + 3)
        columns = [vars(column) | {"cells": [*column.cells, "", "1", ""][:height]} for column in state.columns]
        self._random.shuffle(columns)
        made: dict[str, Any] = {
            "columns": columns,
            "aside": [(row, why) for row, why in state.aside.items() if self._often(0.8)],
        }
        if self._often(0.5):
            return made | {"fits": None, "plot": None}
        fits = TypeAdapter(list[FitState]).dump_python(list(state.fits)[:2], mode="json")
        return made | {"fits": fits, "answers": [], "plot": self._settings(), "picture": None}

    def _rows_to_restore(self, state: StudyState) -> dict[str, Any]:
        count = self._random.randrange(1, 4)
        rows = self._random.sample(range(state.row_count + count), count)
        return {
            "rows": rows,
            "cells": [self._random.choices(_TEXTS, k=count) for _ in state.columns],
            "aside": [(self._row() if self._often(0.2) else rows[0], "why")] if self._often(0.5) else [],
        }

    def _grip(self, state: StudyState, letter: str) -> str:
        family = next((fit.family for fit in state.fits if fit.letter == letter), "")
        grips = FAMILIES[family](**defaults_of(family)).grips if family in FAMILIES and family != "formula" else ()
        return self._random.choice([grip.name for grip in grips] or ["middle"])

    def _often(self, share: float) -> bool:
        return self._random.random() < share

    def _of(self, schema: dict[str, Any], name: str) -> Any:
        if "$ref" in schema:
            return self._of(_DEFINED[schema["$ref"].rsplit("/", 1)[1]], name)
        if "allOf" in schema:
            return self._of(schema["allOf"][0], name)
        if "const" in schema:
            return schema["const"]
        if (known := _KNOWN.get(name)) and self._often(0.92):
            return known(self)
        if "enum" in schema:
            return self._random.choice(schema["enum"])
        if choices := schema.get("anyOf") or schema.get("oneOf"):
            return self._of(self._random.choice(choices), name)
        return self._plain(schema, name)

    def _plain(self, schema: dict[str, Any], name: str) -> Any:
        match schema.get("type"):
            case "object" if "properties" in schema:
                needed = set(schema.get("required", ())) | {"kind"}
                held = schema["properties"]
                return {one: self._of(held[one], one) for one in held if one in needed or self._often(0.3)}
            case "object":
                inner = schema.get("additionalProperties")
                inner = inner if isinstance(inner, dict) else {}
                return {self._parameter(): self._of(inner, "") for _ in range(self._random.randrange(3))}
            case "array":
                least = schema.get("minItems", 0)
                count = min(self._random.randint(least, least + 3), schema.get("maxItems", 1000))
                inner = schema.get("prefixItems") or [schema.get("items", {})] * count
                return [self._of(one, name) for one in inner]
            case "integer":
                return self._whole(schema)
            case "number":
                low = schema.get("minimum", schema.get("exclusiveMinimum", -50.0))
                return self._random.choice((low, self._random.uniform(low, schema.get("maximum", 50.0)), 1.0, 2.0))
            case "boolean":
                return self._often(0.5)
            case "string":
                return self._random.choice(_TEXTS)
            case "null":
                return None
        return self._random.choice((None, True, 1, 2.5, "text", [], {}))

    def _whole(self, schema: dict[str, Any]) -> int:
        if self._often(0.1):
            return self._random.choice((-1, 0, 2**31, 2**70, -(2**70)))
        low = schema.get("minimum", 0)
        return self._random.randint(low, min(schema.get("maximum", 12), low + 12))

    def _row(self) -> int:
        assert self._state is not None
        return self._random.randrange(self._state.row_count + 2)

    def _key(self) -> str:
        """Of a column or an answer of the study, or one that it does not have."""
        assert self._state is not None
        held = [column.key for column in self._state.columns] + [answer.key for answer in self._state.answers]
        new = "".join(self._random.choices(string.ascii_lowercase, k=6))
        return self._random.choice((*held, *held, new, "", "no key!"))

    def _letter(self) -> str:
        assert self._state is not None
        return self._random.choice([fit.letter for fit in self._state.fits] * 4 + ["A", "F"])

    def _parameter(self) -> str:
        return self._random.choice(["m", "c", "a", "b", "k", "p", "q", "a0", "a1", "nothing"])

    def _settings(self) -> dict[str, Any]:
        held = _PLOT["properties"]
        chosen = self._random.sample(sorted(set(held) - {"labels"}), self._random.randint(1, 3))
        return {one: None if self._often(0.3) else self._of(held[one], "") for one in chosen}


_KNOWN: dict[str, Callable[[RandomChanges], Any]] = {
    "row": RandomChanges._row,
    "rows": lambda one: (
        one._random.sample(range(one._row() + 1), 1) if one._often(0.5) else [one._row() for _ in range(2)]
    ),
    "at": RandomChanges._row,
    "key": RandomChanges._key,
    "by": lambda one: one._random.choice(("", one._key())),
    "letter": RandomChanges._letter,
    "fit": lambda one: one._random.choice(("", "all", one._letter())),
    "column": lambda one: one._random.randrange(4),
    "unit": lambda one: one._random.choice(_UNITS),
    "formula": lambda one: one._random.choice(_FORMULAS),
    "text": lambda one: one._random.choice(_TABLES + _FORMULAS + _TEXTS),
    "settings": RandomChanges._settings,
    "symbol": lambda one: one._random.choice(("", "t", "h", "x", "y", "θ", "m")),
    "uncertainty": lambda one: one._random.choice(("", "0.5", "2 %", "half a digit", "0.1 shared", "not one")),
    "lowest": lambda one: one._random.choice(("", "0", "-5", "text")),
    "highest": lambda one: one._random.choice(("", "0", "100", "text")),
    "grip": lambda one: one._random.choice(("start", "end", "middle", "slope", "peak")),
    "where": lambda one: one._random.choice(("replace", "below", "beside", "at")),
    "digest": lambda one: one._random.choice("0af") * 64,
    "value": lambda one: one._random.choice(("0", "1", "2.5", "10", "100", "text")),
    "step": lambda one: one._random.choice((None, 0.5, 1.0, -1.0, 0.0)),
    "count": lambda one: one._random.choice((None, 1, 3, 12)),
    "run": lambda one: one._random.choice(("run-1", "run-2")),
    "seed": lambda one: one._random.randrange(9),
    "series": lambda one: one._random.choice(("", "", "a", "note")),
    "cell": lambda one: one._random.choice(_TEXTS),
}
"""What is chosen for a field of this name, whatever else its type allows."""
