"""Worksheets, the copies that students have of them, and what was handed in."""

from __future__ import annotations

import secrets
import uuid

from django.conf import settings
from django.db import models

from ridge.studies.models import Study


def new_link() -> str:
    """192 random bits."""
    return secrets.token_urlsafe(24)


class Worksheet(models.Model):
    """A task for a class. ``study_file``: the study that every copy begins with; ``steps``: as ``ridge.classes.task_steps`` has them; ``course``: as
    ``CourseSettings`` has it; ``code``: what is typed to join, and opens nothing else; ``link``: the same as an address that nobody guesses."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="worksheets")
    title = models.CharField(max_length=200)
    study_file = models.TextField()
    begin = models.CharField(
        max_length=8, default="readings", choices=[(one, one) for one in ("all", "readings", "columns")]
    )
    """What of it: all, its readings without fits and answers, or its columns without readings."""
    steps = models.JSONField(default=list)
    withheld = models.JSONField(default=dict)
    """What is kept back from students, with the number of the step that must be done before it is told."""
    course = models.JSONField(default=dict)
    code = models.CharField(max_length=12, unique=True)
    link = models.CharField(max_length=43, unique=True, default=new_link)
    closed = models.BooleanField(default=False)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("-made",)

    def __str__(self) -> str:
        return self.title

    @property
    def of_class(self) -> models.QuerySet[Copy]:
        """The copies of students, without the teacher's own."""
        return self.copies.filter(trial=False)


class Copy(models.Model):
    """A student's own study made from a worksheet, which may be deleted since. ``texts``: what was written to steps, by their keys;
    ``ticked``: keys of steps that were marked as done; ``trial``: whether it is the teacher's own, who tries the worksheet as a student."""

    worksheet = models.ForeignKey(Worksheet, on_delete=models.SET_NULL, null=True, related_name="copies")
    study = models.OneToOneField(Study, on_delete=models.CASCADE, related_name="copy")
    student = models.CharField(max_length=60)
    texts = models.JSONField(default=dict)
    ticked = models.JSONField(default=list)
    trial = models.BooleanField(default=False)
    joined = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("student",)

    def __str__(self) -> str:
        return self.student


class HandIn(models.Model):
    """A version that was handed in, frozen: its study as a file, and what was written to the steps."""

    copy = models.ForeignKey(Copy, on_delete=models.CASCADE, related_name="handed_in")
    number = models.PositiveIntegerField()
    study_file = models.TextField()
    texts = models.JSONField(default=dict)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=["copy", "number"], name="one_hand_in_a_number"),)

    def __str__(self) -> str:
        return f"{self.copy_id}, {self.number}"
