"""Users: accounts with a name and password, and guests who start at once."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone


class User(AbstractUser):
    """An account, or a guest who is known only by a signed cookie."""

    is_guest = models.BooleanField(default=False)
    decimal_sign = models.CharField(
        max_length=5,
        blank=True,
        default="",
        db_default="",
        choices=[("point", "decimal point"), ("comma", "decimal comma")],
    )
    """How numbers are written for this user, in every study; empty as long as neither readings nor the user have said."""

    last_visit = models.DateField(null=True, default=timezone.localdate)


class Waiting(models.Model):
    """A long request that somebody waits for. ``ahead``: how many come before it; ``made_since``: when its turn came."""

    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="waiting")
    ticket = models.CharField(max_length=40, unique=True)
    ahead = models.PositiveIntegerField(default=0)
    made_since = models.DateTimeField(null=True, blank=True)
    stopped = models.BooleanField(default=False)
    since = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.ticket
