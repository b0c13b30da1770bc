"""A study as tables: its columns with their cells, readings set aside, fits, answers, and its history."""

from __future__ import annotations

import uuid
from typing import get_args

from django.conf import settings
from django.db import models

from ridge.studies.content import fields
from ridge.studies.content.allowed import FORMULA_TYPED


class Study(models.Model):
    """One problem. ``report`` is empty for the usual parts in their usual order. ``version`` grows with every accepted gesture, undo included; ``position`` is the place in
    the history up to which revisions are in force."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="studies")
    title = models.CharField(max_length=200)
    question = models.TextField(blank=True)
    absolute_errors = models.BooleanField(default=False)
    level = models.FloatField(default=0.95)
    plot = models.JSONField(default=dict)
    letters = models.JSONField(default=dict)
    rising = models.BooleanField(default=False)
    author = models.CharField(max_length=200, blank=True)
    date = models.CharField(max_length=60, blank=True)
    report = models.JSONField(default=list)
    picture = models.JSONField(default=dict, blank=True)
    """All of ``PictureState``, as far as it is not the usual; empty without one."""
    version = models.PositiveIntegerField(default=0)
    settled = models.PositiveIntegerField(default=0)
    """The version up to which anything but readings of an instrument was changed last; since then only rows from ``added_from`` on were
    added."""
    added_from = models.PositiveIntegerField(null=True, blank=True)
    position = models.PositiveIntegerField(default=0)
    rows = models.PositiveIntegerField(default=0)
    size = models.PositiveBigIntegerField(default=0)
    """Bytes of the readings that it began with and of all changes since; see ``ridge.studies.content.room``."""
    attached = models.BooleanField(default=False)
    """Whether an instrument was ever read, or a key made: of most studies there is nothing to be looked up."""
    is_copy = models.BooleanField(default=False)
    """Whether it was made from a worksheet: of most studies there is nothing to be looked up."""
    course = models.JSONField(null=True, blank=True, default=None)
    """What the course of a copy has settled, as ``Course`` has it; none of any other study."""
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True, db_index=True)
    deleted = models.DateTimeField(null=True, blank=True)

    def __str__(self) -> str:
        return self.title


class Column(models.Model):
    """A column; ``cells`` are its texts as typed, one a row. All columns of a study have the same number of rows."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="columns")
    key = models.CharField(max_length=12)
    place = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=100, blank=True)
    symbol = models.CharField(max_length=20, blank=True)
    unit = models.CharField(max_length=40, blank=True)
    role = models.CharField(max_length=10, choices=[(role, role) for role in get_args(fields.Role)])
    cells = models.JSONField(default=list)
    formula = models.CharField(max_length=FORMULA_TYPED, blank=True)
    exponent = models.SmallIntegerField(default=0)
    uncertainty = models.CharField(max_length=80, blank=True)
    lowest = models.CharField(max_length=40, blank=True)
    highest = models.CharField(max_length=40, blank=True)
    limits_why = models.CharField(max_length=100, blank=True)

    class Meta:
        ordering = ("place",)
        constraints = (models.UniqueConstraint(fields=["study", "key"], name="one_column_a_key"),)

    def __str__(self) -> str:
        return self.name or self.symbol


class SetAside(models.Model):
    """A reading kept in the table but not used by any fit. ``row`` counts from 0."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="aside")
    row = models.PositiveIntegerField()
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ("row",)
        constraints = (models.UniqueConstraint(fields=["study", "row"], name="set_aside_once"),)

    def __str__(self) -> str:
        return f"row {self.row + 1}"


class Assumed(models.Model):
    """A reading that was not measured but supposed. ``row`` counts from 0."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="assumed")
    row = models.PositiveIntegerField()
    reason = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ("row",)
        constraints = (models.UniqueConstraint(fields=["study", "row"], name="assumed_once"),)

    def __str__(self) -> str:
        return f"row {self.row + 1}"


class StudyFit(models.Model):
    """A model to be fitted, the leading one first. Its numbers are computed from the readings, never stored, but for those
    that were set by hand."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="fits")
    place = models.PositiveSmallIntegerField(default=0)
    letter = models.CharField(max_length=1)
    family = models.CharField(max_length=20)
    settings = models.JSONField(default=dict)
    """All the rest of ``FitState``, as far as it is not the usual."""

    class Meta:
        ordering = ("place", "letter")
        constraints = (models.UniqueConstraint(fields=["study", "letter"], name="one_fit_a_letter"),)

    def __str__(self) -> str:
        return f"{self.letter}: {self.family}"


class Answer(models.Model):
    """A question kept on the page; what it gives is computed anew from the readings."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="answers")
    key = models.CharField(max_length=12)
    place = models.PositiveSmallIntegerField()
    direction = models.CharField(max_length=10, choices=[(name, name) for name in get_args(fields.Direction)])
    given = models.CharField(max_length=200, blank=True)
    repeats = models.PositiveIntegerField(default=1)
    fit = models.CharField(max_length=3, blank=True)
    name = models.CharField(max_length=60, blank=True)
    was = models.CharField(max_length=400, blank=True)
    unit = models.CharField(max_length=40, blank=True)

    class Meta:
        ordering = ("place",)
        constraints = (models.UniqueConstraint(fields=["study", "key"], name="one_answer_a_key"),)

    def __str__(self) -> str:
        return f"{self.direction} {self.given}"


class KeptPicture(models.Model):
    """The bytes of a picture that was written anew, once for each owner; studies and their histories name it by ``digest``."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="pictures")
    digest = models.CharField(max_length=64)
    media_type = models.CharField(max_length=20)
    data = models.BinaryField()
    size = models.PositiveIntegerField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = (models.UniqueConstraint(fields=["owner", "digest"], name="one_picture_a_digest"),)

    def __str__(self) -> str:
        return self.digest[:12]


class Run(models.Model):
    """Readings that an instrument takes for a study: ``taken`` of them are in the table or are known to be ``lost``."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="runs")
    instrument = models.CharField(max_length=20)
    channels = models.JSONField(default=list)
    seed = models.PositiveIntegerField()
    interval = models.FloatField()
    most = models.PositiveIntegerField()
    started = models.DateTimeField()
    stopped = models.DateTimeField(null=True, blank=True)
    taken = models.PositiveIntegerField(default=0)
    lost = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ("started",)

    def __str__(self) -> str:
        return self.instrument


class PostKey(models.Model):
    """What lets whoever holds it add rows to one study; kept as the SHA-256 of the key alone."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="keys")
    digest = models.CharField(max_length=64, unique=True)
    made = models.DateTimeField(auto_now_add=True)
    withdrawn = models.DateTimeField(null=True, blank=True)
    posted = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return self.digest[:8]


class Link(models.Model):
    """What lets whoever has its address look at one study; kept as the SHA-256 of its token alone. ``ends``: its last day."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="links")
    digest = models.CharField(max_length=64, unique=True)
    called = models.CharField(max_length=60, blank=True)
    made = models.DateTimeField(auto_now_add=True)
    ends = models.DateField(null=True, blank=True)
    opened = models.PositiveIntegerField(default=0)

    def __str__(self) -> str:
        return self.digest[:8]


class Comment(models.Model):
    """A comment on a result. ``about``: on which, as ``fields.About``; ``place``: the same in words, as it was then. ``role`` and ``by``: who
    wrote it, which stays when its link is revoked; ``by`` is empty for comments from before it was stored."""

    class Role(models.TextChoices):
        OWNER = "owner"
        TEACHER = "teacher"
        VISITOR = "visitor"

    role = models.CharField(max_length=7, choices=Role.choices, default=Role.OWNER, db_default=Role.OWNER)
    by = models.CharField(max_length=40, blank=True, default="", db_default="")
    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="comments")
    link = models.ForeignKey(Link, on_delete=models.SET_NULL, null=True, blank=True, related_name="comments")
    about = models.CharField(max_length=80, blank=True)
    place = models.CharField(max_length=120, blank=True)
    author = models.CharField(max_length=60, blank=True)
    text = models.TextField()
    answer = models.TextField(blank=True)
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return self.text[:40]


class Revision(models.Model):
    """One accepted change with its inverse."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    label = models.CharField(max_length=120)
    change = models.JSONField()
    inverse = models.JSONField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("number",)
        constraints = (models.UniqueConstraint(fields=["study", "number"], name="one_revision_a_number"),)

    def __str__(self) -> str:
        return self.label


class AnsweredRequest(models.Model):
    """The key of a request that was carried out, so that it is not carried out again when its answer was lost. ``study`` is
    what it changed, or what it made."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="answered")
    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="answered")
    key = models.CharField(max_length=40)
    made = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        constraints = (models.UniqueConstraint(fields=["owner", "study", "key"], name="one_answer_a_request"),)

    def __str__(self) -> str:
        return self.key
