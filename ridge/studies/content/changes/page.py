"""The page: title, question, how uncertainties are meant, and the answers kept."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.fields import (
    AnswerName,
    AnswerWas,
    Asked,
    Direction,
    Given,
    Key,
    Letters,
    Level,
    PlaceOfAnswer,
    Question,
    Repeats,
    Title,
    Unit,
)
from ridge.studies.content.state import AnswerState, StudyState, new_key

NEED_A_VALUE = ("y_at_x", "x_at_y", "tangent", "area", "crossing")
WORDS = {"roots": "zeros", "turning": "turning points", "inflexions": "inflexions"}
"""What a question without a value is called in the history."""


class EditStudy(Change):
    """Title, question, confidence level, whether uncertainties are known absolutely, and the letters and the order of
    terms that the course uses."""

    kind: Literal["edit_study"] = "edit_study"
    title: Title | None = None
    question: Question | None = None
    absolute_errors: bool | None = None
    level: Level | None = None
    letters: Letters | None = None
    rising: bool | None = None

    def apply(self, state: StudyState) -> Outcome:
        given = {k: v for k, v in self.model_dump(exclude={"kind"}).items() if v is not None}
        if not given:
            raise ChangeRefused("There is nothing to change.")
        words = {
            "title": "title",
            "question": "question",
            "absolute_errors": "meaning of the uncertainties",
            "level": "confidence level",
            "letters": "letters of the course",
            "rising": "order of the terms",
        }
        inverse = EditStudy.like(**{k: getattr(state, k) for k in given})
        return Outcome(replace(state, **given), inverse, f"change the {' and '.join(words[k] for k in given)}")


class KeepAnswer(Change):
    """Keep a question on the page. ``given`` is as typed: a number or several, the repeated readings of one unknown, the
    ends of an area, the letter of another fit. ``fit``: the letter of the one that is asked, empty for the leading one,
    "all" for every one. ``was``: what it says at the moment, so that a later change of it can be told."""

    kind: Literal["keep_answer"] = "keep_answer"
    key: Key = Field(default_factory=new_key)
    direction: Direction
    given: Given = ""
    repeats: Repeats = 1
    fit: Asked = ""
    name: AnswerName = ""
    was: AnswerWas = ""
    unit: Unit = ""
    at: PlaceOfAnswer | None = None

    def apply(self, state: StudyState) -> Outcome:
        if len(state.answers) >= LIMITS["answers"]:
            raise ChangeRefused(f"A page holds {LIMITS['answers']} answers at most.")
        if not self.given and self.direction in NEED_A_VALUE:
            raise ChangeRefused("Type a value first.")
        kept = AnswerState(self.key, self.direction, self.given, self.repeats, self.fit, self.name, self.was, self.unit)
        at = len(state.answers) if self.at is None else self.at
        answers = (*state.answers[:at], kept, *state.answers[at:])
        what = self.given or WORDS[self.direction]
        return Outcome(replace(state, answers=answers), RemoveAnswer(key=self.key), f"keep the answer for {what}")


class SetAnswer(Change):
    """Name, place, unit, or what a kept answer is remembered to say; what is left out stays."""

    kind: Literal["set_answer"] = "set_answer"
    key: Key
    name: AnswerName | None = None
    was: AnswerWas | None = None
    unit: Unit | None = None
    to: PlaceOfAnswer | None = None

    def apply(self, state: StudyState) -> Outcome:
        at, old = _find(state, self.key)
        name = old.name if self.name is None else self.name
        unit = old.unit if self.unit is None else self.unit
        # What it said in another unit is no longer what it is held against.
        was = "" if unit != old.unit else old.was
        new = replace(old, name=name, was=was if self.was is None else self.was, unit=unit)
        rest = [answer for answer in state.answers if answer is not old]
        rest.insert(at if self.to is None else self.to, new)
        inverse = SetAnswer.like(key=self.key, name=old.name, was=old.was, unit=old.unit, to=at)
        label = (
            f"convert an answer into {self.unit or 'its own unit'}"
            if self.unit is not None
            else "move an answer"
            if self.to is not None
            else f"call an answer {self.name}"
            if self.name
            else "accept an answer"
        )
        return Outcome(replace(state, answers=tuple(rest)), inverse, label)


class RemoveAnswer(Change):
    """Take an answer off the page."""

    kind: Literal["remove_answer"] = "remove_answer"
    key: Key

    def apply(self, state: StudyState) -> Outcome:
        at, old = _find(state, self.key)
        inverse = KeepAnswer.like(at=at, **vars(old))
        answers = state.answers[:at] + state.answers[at + 1 :]
        what = old.given or WORDS[old.direction]
        return Outcome(replace(state, answers=answers), inverse, f"remove the answer for {what}")


def _find(state: StudyState, key: str) -> tuple[int, AnswerState]:
    for at, answer in enumerate(state.answers):
        if answer.key == key:
            return at, answer
    raise ChangeRefused("That answer is no longer there.")
