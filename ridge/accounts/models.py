"""Users: accounts with a name and password, and guests who start at once."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone
from django.utils.crypto import salted_hmac


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

    signed_out = models.CharField(max_length=16, blank=True, default="", db_default="")
    """Changes when all sessions are to end, wherever they were begun."""
    skeleton = models.CharField(max_length=150, blank=True, default="", db_default="", db_index=True)
    """Form shared by all names that look alike (``ridge.accounts.names``); empty for guests."""
    last_visit = models.DateField(null=True, default=timezone.localdate)

    def _get_session_auth_hash(self, secret: str | None = None) -> str:
        """A session holds as long as neither the password changes nor all sessions are ended."""
        own = str(super()._get_session_auth_hash(secret))  # type: ignore[misc]  # not in the stubs
        return (
            salted_hmac("ridge.accounts.signed_out", own + self.signed_out, secret=secret).hexdigest()
            if self.signed_out
            else own
        )


class RecoveryCode(models.Model):
    """What lets an account back in whose password is lost, once; kept as its SHA-256 alone."""

    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="recovery_codes")
    digest = models.CharField(max_length=64)

    class Meta:
        constraints = (models.UniqueConstraint(fields=["owner", "digest"], name="one_code_a_digest"),)

    def __str__(self) -> str:
        return self.digest[:8]


class FailedSignIns(models.Model):
    """Wrong passwords for a name from an address, for a name, or from an address: ``key`` is a hash, so that neither is stored."""

    key = models.CharField(max_length=64, unique=True)
    count = models.PositiveIntegerField(default=0)
    last = models.DateTimeField()

    def __str__(self) -> str:
        return self.key[:8]


class EndedSession(models.Model):
    """A session that was signed out. Its cookie is refused until it would have expired anyway."""

    name = models.CharField(max_length=24, unique=True)
    ended = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name[:6]


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
