"""The page: title, question, how uncertainties are meant, and the answers kept."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.state import LIMITS, AnswerState, StudyState, new_key

Title = Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]


Parameter = Annotated[str, StringConstraints(pattern=r"^[a-z_0-9]{1,20}$")]
CourseLetter = Annotated[str, StringConstraints(pattern=r"^[^\W\d_]\w{0,11}$")]
"""A letter, with an index after an underscore where there is one."""


class EditStudy(Change):
    """Title, question, confidence level, whether uncertainties are known absolutely, and the letters and the order of
    terms that the course uses."""

    kind: Literal["edit_study"] = "edit_study"
    title: Title | None = None
    question: Annotated[str, StringConstraints(max_length=2000)] | None = None
    absolute_errors: bool | None = None
    level: Annotated[float, Field(ge=0.5, le=0.9999)] | None = None
    letters: Annotated[dict[Parameter, CourseLetter], Field(max_length=40)] | None = None
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
    """Keep a question on the page. ``given`` is as typed: one number, or the repeated readings of one unknown."""

    kind: Literal["keep_answer"] = "keep_answer"
    key: str = Field(default_factory=new_key)
    direction: Literal["y_at_x", "x_at_y"]
    given: Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
    repeats: Annotated[int, Field(ge=1, le=10_000)] = 1
    at: int | None = None

    def apply(self, state: StudyState) -> Outcome:
        if len(state.answers) >= LIMITS["answers"]:
            raise ChangeRefused(f"A page holds {LIMITS['answers']} answers at most.")
        answer = AnswerState(self.key, self.direction, self.given, self.repeats)
        at = len(state.answers) if self.at is None else self.at
        answers = (*state.answers[:at], answer, *state.answers[at:])
        return Outcome(replace(state, answers=answers), RemoveAnswer(key=self.key), f"keep the answer for {self.given}")


class RemoveAnswer(Change):
    """Take an answer off the page."""

    kind: Literal["remove_answer"] = "remove_answer"
    key: str

    def apply(self, state: StudyState) -> Outcome:
        for at, answer in enumerate(state.answers):
            if answer.key == self.key:
                inverse = KeepAnswer.like(
                    key=answer.key, direction=answer.direction, given=answer.given, repeats=answer.repeats, at=at
                )
                answers = state.answers[:at] + state.answers[at + 1 :]
                return Outcome(replace(state, answers=answers), inverse, f"remove the answer for {answer.given}")
        raise ChangeRefused("That answer is no longer there.")
