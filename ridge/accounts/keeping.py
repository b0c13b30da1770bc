"""Accounts: made out of a guest, entered elsewhere, ended. Passwords, sessions and their protection are Django's and django-axes'."""

from __future__ import annotations

import re
import secrets
from hashlib import sha256

from django.contrib.auth import authenticate
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest

from ridge.accounts.models import RecoveryCode, User

CODES = 8
"""Recovery codes that an account begins with."""
_ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"
_NAME = re.compile(r"[\w.@+-]{2,60}")
_RESERVED = re.compile(r"guest-.*|field-week", re.I)
TAKEN = "There is an account of this name already. Choose another one, or sign in."
WRONG = "This name and password do not belong together."
LOCKED = "Too many wrong passwords for this name. Try again in a quarter of an hour, or use a recovery code."
WRONG_CODE = "This name and recovery code do not belong together, or the code was used already."


class NotKept(Exception):
    """What was given cannot be taken. The message says why and what to do."""


@transaction.atomic
def keep(user: User, name: str, password: str, email: str = "") -> list[str]:
    """Make an account out of a guest; all that is theirs stays. Returns the recovery codes, told this once. Raises NotKept."""
    if not user.is_guest:
        raise NotKept("This is an account already.")
    user.username = check_name(name)
    set_password(user, password)
    user.email = email
    user.is_guest = False
    user.save()
    return new_codes(user)


def check_name(name: str) -> str:
    """The name, if an account may have it. Raises NotKept."""
    name = name.strip()
    if not _NAME.fullmatch(name) or _RESERVED.fullmatch(name):
        raise NotKept("A name has 2 to 60 letters, digits or the signs . @ + - _, without spaces.")
    if User.objects.filter(username__iexact=name).exists():
        raise NotKept(TAKEN)
    return name


def set_password(user: User, password: str) -> None:
    """The user is still to be saved. Raises NotKept for one that is too easily guessed."""
    try:
        validate_password(password, user)
    except ValidationError as weak:
        raise NotKept(" ".join(weak.messages)) from None
    user.set_password(password)


def known(request: HttpRequest, name: str, password: str) -> User:
    """Whose name and password these are. Raises NotKept, also where wrong ones were tried too often."""
    named = User.objects.filter(username__iexact=name.strip(), is_guest=False).first()
    found = authenticate(request, username=named.username if named else name.strip(), password=password)
    if isinstance(found, User) and not found.is_guest:
        return found
    raise NotKept(LOCKED if getattr(request, "axes_locked_out", False) else WRONG)


def new_codes(user: User) -> list[str]:
    """Recovery codes in place of those there were."""
    codes = [_new_code() for _ in range(CODES)]
    user.recovery_codes.all().delete()
    RecoveryCode.objects.bulk_create([RecoveryCode(owner=user, digest=_digest(code)) for code in codes])
    return codes


def add_code(user: User) -> str:
    """One recovery code more."""
    code = _new_code()
    RecoveryCode.objects.create(owner=user, digest=_digest(code))
    return code


def _new_code() -> str:
    return "-".join("".join(secrets.choice(_ALPHABET) for _ in range(5)) for _ in range(3))


@transaction.atomic
def recover(name: str, code: str, password: str) -> User:
    """A new password for whoever has one of the account's codes, which is used up by it; all other sessions end. Raises NotKept."""
    user = User.objects.select_for_update().filter(username__iexact=name.strip(), is_guest=False).first()
    if user is None or not user.recovery_codes.filter(digest=_digest(code)).exists():
        raise NotKept(WRONG_CODE)
    set_password(user, password)
    user.save(update_fields=["password"])
    user.recovery_codes.filter(digest=_digest(code)).delete()
    return user


def end_all_sessions(user: User) -> None:
    """Wherever they were begun; the one of who asks is to be begun anew."""
    user.signed_out = secrets.token_hex(8)
    user.save(update_fields=["signed_out"])


def _digest(code: str) -> str:
    plain = re.sub(r"[\s-]", "", code).lower()
    return sha256(plain.encode()).hexdigest()
