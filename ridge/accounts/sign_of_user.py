"""The decimal sign of a request: the user's choice for all studies, or else the custom of the browser's language."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils.formats import get_format
from django.utils.translation.trans_real import parse_accept_lang_header

from ridge.accounts.models import User
from ridge.core.decimal_sign import Sign, decimal_sign, written_with


class DecimalSign:
    """Middleware that writes every number of a response with the sign of the user."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with written_with(sign_for(request)):
            return self._get_response(request)


def sign_for(request: HttpRequest) -> Sign:
    """Return the sign to write numbers with."""
    return chosen_by(request) or sign_of_languages(request.headers.get("Accept-Language", ""))


def chosen_by(request: HttpRequest) -> Sign | None:
    """Return the sign that the user has chosen; None before a choice."""
    chosen = request.user.decimal_sign if isinstance(request.user, User) else ""
    return "comma" if chosen == "comma" else "point" if chosen == "point" else None


def sign_of_languages(accepted: str) -> Sign:
    """Return the custom of the first language of an ``Accept-Language`` header, by Django's formats; a point where it names none.

    >>> sign_of_languages("de-DE,de;q=0.9,en;q=0.8"), sign_of_languages("en-GB"), sign_of_languages("")
    ('comma', 'point', 'point')
    """
    for language, _ in parse_accept_lang_header(accepted[:500]):
        if language != "*":
            return "comma" if get_format("DECIMAL_SEPARATOR", language, use_l10n=True) == "," else "point"
    return "point"


def choose(user: User, sign: Sign) -> None:
    """Store the choice of a user."""
    user.decimal_sign = sign
    user.save(update_fields=["decimal_sign"])


def offered(request: HttpRequest, found: Sign | None) -> Sign | None:
    """Return the sign that readings are written with where it differs from the one in use and the user has chosen none yet."""
    return found if found != decimal_sign() and chosen_by(request) is None else None
