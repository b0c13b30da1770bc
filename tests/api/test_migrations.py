"""What older databases hold goes over into newer ones without loss."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from ridge.studies.content.state import FitState
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from tests.cold import forget_recent


def migrate(name: str) -> Any:
    """Bring the tables to a migration; returns its models."""
    MigrationExecutor(connection).migrate([("studies", name)])
    return MigrationExecutor(connection).loader.project_state([("studies", name)]).apps


def migrate_to_today() -> None:
    MigrationExecutor(connection).migrate(MigrationExecutor(connection).loader.graph.leaf_nodes())


class SettingsOfFits(TransactionTestCase):
    """Fits that had a column for each of their settings."""

    def tearDown(self) -> None:
        migrate_to_today()

    def test_there_and_back(self) -> None:
        old = migrate("0009_limits_of_sense")
        owner = old.get_model("accounts", "User").objects.create(username="before")
        study = old.get_model("studies", "Study").objects.create(owner=owner, title="Old")
        column = old.get_model("studies", "Column").objects.create
        for place, role in enumerate("xy"):
            column(study=study, key=role, place=place, role=role, cells=["1", "2"])
        settings = {
            "options": {"degree": 3}, "fixed": {"c0": 1.5}, "bounds": {"c1": [None, 2.0]}, "x_range": [0.0, 4.0], "series": "ebb",
            "decimals": {"c2": 3}, "name": "mine", "hidden": True,
        }  # fmt: skip
        old.get_model("studies", "StudyFit").objects.create(study=study, letter="A", family="polynomial", **settings)
        old.get_model("studies", "StudyFit").objects.create(study=study, letter="B", place=1, family="line")
        migrate_to_today()
        forget_recent()
        first, second = read_state(Study.objects.get(pk=study.pk)).fits
        expected: dict[str, Any] = {**settings, "bounds": {"c1": (None, 2.0)}, "x_range": (0.0, 4.0)}
        self.assertEqual(first, FitState("A", "polynomial", **expected))
        self.assertEqual(second, FitState("B", "line"))
        fit = migrate("0009_limits_of_sense").get_model("studies", "StudyFit").objects.get(letter="A")
        self.assertEqual({name: getattr(fit, name) for name in settings}, settings)
