"""Sessions in signed cookies that can be ended on the server: a copy of the cookie is worth nothing after signing out."""

from __future__ import annotations

import secrets
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.contrib.sessions.backends import signed_cookies
from django.http import HttpRequest
from django.utils import timezone

from ridge.accounts.models import EndedSession

NAME = "session"
"""Key of the random name of a session, which those of accounts have."""


class SessionStore(signed_cookies.SessionStore):
    def load(self) -> dict[str, Any]:
        """Return the content of the cookie; nothing where its session was ended."""
        content: dict[str, Any] = super().load()
        if (name := content.get(NAME)) and EndedSession.objects.filter(name=name).exists():
            self.create()
            return {}
        return content


def name_session(request: HttpRequest) -> None:
    """Give the session a new name, by which it can be ended."""
    request.session[NAME] = secrets.token_hex(12)


def end_session(request: HttpRequest) -> bool:
    """End this session wherever its cookie was copied to. Return False for one without a name, begun before sessions had any."""
    name = request.session.get(NAME)
    if name:
        EndedSession.objects.get_or_create(name=name)
    return bool(name)


def forget_ended() -> None:
    """Remove what no cookie can name any more."""
    until = timezone.now() - timedelta(seconds=settings.SESSION_COOKIE_AGE)
    EndedSession.objects.filter(ended__lt=until).delete()
