"""The API of a column's form: what is wrong with what is typed, before it is applied. Stores nothing."""

from __future__ import annotations

import uuid
from typing import Annotated

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import StringConstraints

from ridge.studies.api.admission import own_study
from ridge.studies.content.allowed import FORMULA_TYPED
from ridge.studies.content.fields import Key
from ridge.studies.content.store import read_state
from ridge.studies.words.column_look import conversion, formula_look, names_offered, symbol_look, uncertainty_look
from ridge.studies.words.schemas import KnownNameOut, Message

router = Router(tags=["columns"])


class ColumnLookIn(Schema):
    """What stands in the form; ``key``: the column, empty for a new one."""

    key: Key = ""
    name: Annotated[str, StringConstraints(max_length=200)] = ""
    symbol: Annotated[str, StringConstraints(max_length=100)] = ""
    unit: Annotated[str, StringConstraints(max_length=100)] = ""
    uncertainty: Annotated[str, StringConstraints(max_length=200)] = ""
    formula: Annotated[str, StringConstraints(max_length=FORMULA_TYPED)] = ""


class FormulaLookOut(Schema):
    """``problem`` with the place of it in the text; ``latex``; first ``values``; ``no_value``: rows without one, and why. ``unit`` as it
    follows from the sources, with what is remarked of it; ``carried``: the uncertainty that does, or ``not_carried``: why not."""

    problem: str = ""
    position: int | None = None
    length: int = 1
    possible: str = ""
    latex: str = ""
    values: list[str] = []
    no_value: str = ""
    unit: str = ""
    unit_remark: str = ""
    carried: str = ""
    not_carried: str = ""


class ColumnLookOut(Schema):
    """``conversion``: what one of the column's unit is in the one that is typed, empty where it cannot be converted."""

    conversion: str
    symbol_problem: str
    symbol_proposal: str
    uncertainty_problem: str
    uncertainty_used: str
    formula: FormulaLookOut
    names: list[KnownNameOut]


@router.post("/studies/{study_id}/column", response={200: ColumnLookOut, 404: Message})
def column(request: HttpRequest, study_id: uuid.UUID, body: ColumnLookIn) -> ColumnLookOut:
    """What can be said of the settings of a column while they are typed."""
    state = read_state(own_study(request))
    why, proposal = symbol_look(state, body.key, body.symbol.strip(), body.name)
    wrong, used = uncertainty_look(state, body.key, body.uncertainty, body.formula)
    return ColumnLookOut(
        conversion=conversion(state, body.key, body.unit.strip()),
        symbol_problem=why,
        symbol_proposal=proposal,
        uncertainty_problem=wrong,
        uncertainty_used=used,
        formula=FormulaLookOut.model_validate(formula_look(state, body.key, body.formula, body.unit.strip())),
        names=names_offered(state, body.key),
    )
