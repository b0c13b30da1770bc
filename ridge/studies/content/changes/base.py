"""What every change is: a small record that turns one state into the next and knows its inverse."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from ninja import Schema
from pydantic import ConfigDict

from ridge.studies.content.state import StudyState


class ChangeRefused(Exception):
    """The change has no meaning on this state. The message says what to do instead."""


class Change(Schema):
    """Base of the changes. Fields are what the request carries and what the history keeps."""

    model_config = ConfigDict(extra="forbid")

    def apply(self, state: StudyState) -> Outcome:
        """The state after this change. Raises ChangeRefused, and then changes nothing."""
        raise NotImplementedError

    def stored(self) -> dict[str, object]:
        """As it goes into the history."""
        return self.model_dump(mode="json")

    @classmethod
    def like(cls, **values: object) -> Self:
        return cls.model_validate(values)


@dataclass(frozen=True)
class Outcome:
    """``label`` says in a few words what happened, for undo: "set aside row 7"."""

    state: StudyState
    inverse: Change
    label: str
