"""The API of a column's form: what is wrong with what is typed, before it is applied. Stores nothing."""

from __future__ import annotations

import uuid
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import StringConstraints

from ridge.studies.api.admission import own_study
from ridge.studies.content.allowed import FORMULA_TYPED
from ridge.studies.content.store import read_state
from ridge.studies.words.column_look import formula_look, names_offered, symbol_look, uncertainty_problem
from ridge.studies.words.schemas import KnownNameOut, Message

router = Router(tags=["columns"])


class ColumnLookIn(Schema):
    """What stands in the form; ``key``: the column, empty for a new one."""

    key: Annotated[str, StringConstraints(max_length=40)] = ""
    name: Annotated[str, StringConstraints(max_length=200)] = ""
    symbol: Annotated[str, StringConstraints(max_length=100)] = ""
    uncertainty: Annotated[str, StringConstraints(max_length=200)] = ""
    formula: Annotated[str, StringConstraints(max_length=FORMULA_TYPED)] = ""


class FormulaLookOut(Schema):
    """``problem`` with the place of it in the text; ``latex``; first ``values``; ``no_value``: rows without one, and why."""

    problem: str = ""
    position: int | None = None
    length: int = 1
    possible: str = ""
    latex: str = ""
    values: list[str] = []
    no_value: str = ""


class ColumnLookOut(Schema):
    symbol_problem: str
    symbol_proposal: str
    uncertainty_problem: str
    formula: FormulaLookOut
    names: list[KnownNameOut]


@router.post("/studies/{study_id}/column", response={200: ColumnLookOut, 404: Message})
def column(request: HttpRequest, study_id: uuid.UUID, body: ColumnLookIn) -> ColumnLookOut:
    """What can be said of the settings of a column while they are typed."""
    state = read_state(own_study(request))
    why, proposal = symbol_look(state, body.key, body.symbol.strip(), body.name)
    return ColumnLookOut(
        symbol_problem=why,
        symbol_proposal=proposal,
        uncertainty_problem=uncertainty_problem(body.uncertainty),
        formula=FormulaLookOut.model_validate(formula_look(state, body.key, body.formula)),
        names=names_offered(state, body.key),
    )
