"""What a course keeps back from a student for now. It is kept back here, where answers leave the server, not just hidden on the page."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any, Literal

from django.http import HttpRequest

from ridge.core.models import FAMILIES
from ridge.studies.content.changes import ChangeRefused
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.models import Study

What = Literal["fit", "quality", "suggestions", "workings", "answers"]
"""Fits by least squares (curves set by hand are there); R² and all else that says how well a curve fits; which model would be better; workings;
answers to questions and unknowns."""
WORDS: dict[What, str] = {
    "fit": "The fit by least squares",
    "quality": "How well it fits",
    "suggestions": "Which model is better",
    "workings": "The workings",
    "answers": "Answers",
}
Withheld = Mapping[What, int]
"""Each with the number of the step that must be done before it is told."""

_BLANK: dict[What, dict[str, Any]] = {
    "fit": {"least_rss": "", "other_way": None},
    "quality": {
        "r_squared": "", "typical_miss": "", "how_well": "", "statistics": [], "least_rss": "", "deviation": None,
        "difference": None, "checklist": [], "before_fit": "", "other_way": None,
    },
    "suggestions": {"other_model": False},
    "workings": {},
    "answers": {"answers": [], "unknowns": []},
}  # fmt: skip
"""What is told instead, wherever it stands in an answer."""

_by: list[Callable[[Study], Withheld]] = []


def withheld_by(told: Callable[[Study], Withheld]) -> None:
    """From now on ``told`` says what is withheld from the owner of a study that is a copy."""
    _by.append(told)


class KeptBack(Exception):
    """The message says what is withheld, and until when."""


def withheld_of(study: Study) -> Withheld:
    """Return what is locked in a study for its owner and for anyone the owner shows it to."""
    return {what: step for told in _by for what, step in told(study).items()} if study.is_copy else {}


def note_withheld(request: HttpRequest, study: Study) -> None:
    """Note for the answer to a request what is locked in its study."""
    request.withheld = withheld_of(study)  # type: ignore[attr-defined]


def withheld_from(request: HttpRequest) -> Withheld:
    found: Withheld = getattr(request, "withheld", {})
    return found


def refuse_withheld(request: HttpRequest, *parts: What) -> None:
    """Raises KeptBack where any of these is withheld; of a file or a copy of the whole study, all of them are parts."""
    for what, step in withheld_from(request).items():
        if what in parts:
            raise KeptBack(f"{WORDS[what]}: your course tells that when step {step} is done.")


def check_withheld(request: HttpRequest, before: StudyState, after: StudyState) -> None:
    """Raises ChangeRefused where a change brings what is withheld; what was there before is known already."""
    withheld = withheld_from(request)
    if "fit" in withheld and any(_is_searched(fit) and fit not in before.fits for fit in after.fits):
        raise ChangeRefused(
            f"Set a curve by hand for now: your course has the fit by least squares when step {withheld['fit']} is done."
        )
    if "answers" in withheld and len(after.answers) > len(before.answers):
        raise ChangeRefused(f"Your course has answers when step {withheld['answers']} is done.")
    if "answers" in withheld and _uses_of_fits(after) - _uses_of_fits(before):
        raise ChangeRefused(f"Columns can use the values of fits when step {withheld['answers']} is done.")


def _uses_of_fits(state: StudyState) -> set[tuple[str, str]]:
    """Columns with formulas in which a fit stands by its letter: its value anywhere, which is a prediction."""
    letters = "".join(fit.letter for fit in state.fits)
    stands = re.compile(rf"(?<![\w]){f'[{letters}]'}(?![\w])") if letters else None
    return {(one.key, one.formula) for one in state.columns if stands and stands.search(one.formula)}


def _is_searched(fit: FitState) -> bool:
    return not fit.by_hand and fit.family in FAMILIES


def without_withheld(request: HttpRequest, data: Any) -> Any:
    """An answer's data with blanks where something is withheld."""
    blank = {name: value for what in withheld_from(request) for name, value in _BLANK[what].items()}
    return _blanked(data, blank) if blank else data


def _blanked(data: Any, blank: Mapping[str, Any]) -> Any:
    if isinstance(data, dict):
        return {key: blank[key] if key in blank else _blanked(value, blank) for key, value in data.items()}
    if isinstance(data, list | tuple):
        # Long lists of numbers hold no names.
        return data if data and not isinstance(data[0], dict | list | tuple) else [_blanked(one, blank) for one in data]
    return data
