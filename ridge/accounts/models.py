"""Users: accounts with a name and password, and guests who start at once."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models


class User(AbstractUser):
    """An account, or a guest who is known only by a signed cookie."""

    is_guest = models.BooleanField(default=False)
