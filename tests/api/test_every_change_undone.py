"""Whatever change is accepted, undo brings back the state before it and redo the one after it, exactly; and states stay sound."""

from __future__ import annotations

import json
from collections import Counter
from dataclasses import fields
from random import SystemRandom
from typing import Any

from django.test import TestCase
from pydantic import ValidationError

from ridge.accounts.models import User
from ridge.studies.content.changes import ChangeRefused, Outcome, read_change
from ridge.studies.content.readable import NOT_STORED, apply_checked
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import StudyState, empty_study
from ridge.studies.content.store import _read_tables, create_study
from tests.examples import TIMES
from tests.random_changes import KINDS, RandomChanges

STEPS = 10_000
MOST_ROWS = 60


class EveryChangeUndone(TestCase):
    def test_any_sequence_of_changes(self) -> None:
        taken: Counter[str] = Counter()
        first = 0 if TIMES == 1 else SystemRandom().randrange(10**9)
        for seed in range(first, first + 10 * TIMES):
            source = RandomChanges(seed)
            state = begin(seed)
            for _ in range(STEPS // 10):
                if state.row_count > MOST_ROWS:
                    state = begin(seed)
                state = self.one_step(source.next(state), state, taken)
        # Every kind of change was accepted, most of them often: else nothing was shown.
        self.assertEqual({kind for kind in KINDS if not taken[kind]}, set(), taken)

    def one_step(self, asked: dict[str, Any], before: StudyState, taken: Counter[str]) -> StudyState:
        try:
            change = read_change(asked)
        except ValidationError:
            return before
        try:
            outcome = apply_checked(change, before).outcome
        except ChangeRefused as refused:
            self.assertNotEqual(str(refused), NOT_STORED, asked)
            return before
        taken[asked["kind"]] += 1
        undone = again(outcome.inverse.stored(), outcome.state)
        self.same(undone.state, before, asked)
        self.same(again(change.stored(), undone.state).state, outcome.state, asked)
        if sum(taken.values()) % 50 == 0:
            self.same(kept(outcome.state), outcome.state, asked)
        return outcome.state

    def same(self, found: StudyState, wanted: StudyState, asked: dict[str, Any]) -> None:
        for one in fields(StudyState):
            self.assertEqual(getattr(found, one.name), getattr(wanted, one.name), asked)


def begin(seed: int) -> StudyState:
    """A sample, or an empty study."""
    return build_sample(SAMPLES[seed % len(SAMPLES)].name) if seed % 4 else empty_study("Tried")


def again(stored: object, state: StudyState) -> Outcome:
    """What the history does."""
    return read_change(json.loads(json.dumps(stored))).apply(state)


def kept(state: StudyState) -> StudyState:
    """The state as the database gives it back."""
    owner, _ = User.objects.get_or_create(username="trier")
    study = create_study(owner, state)
    study.refresh_from_db()
    found = _read_tables(study)
    study.delete()
    return found
