"""Whether numbers are written with a decimal point or a comma: a user's choice for all studies, taken from the readings at first."""

from __future__ import annotations

from django.http import HttpRequest

from ridge.accounts.models import User
from ridge.core.wording.decimal_sign import Sign


def sign_for(request: HttpRequest) -> Sign:
    """How numbers are written for whoever asks."""
    return "comma" if isinstance(request.user, User) and request.user.decimal_sign == "comma" else "point"


def choose(user: User, sign: Sign) -> None:
    """From now on."""
    user.decimal_sign = sign
    user.save(update_fields=["decimal_sign"])


def take_from_readings(user: User, sign: Sign | None) -> None:
    """What readings are written with counts as long as nothing else was chosen; None where they hold neither sign."""
    if sign and not user.decimal_sign:
        choose(user, sign)
