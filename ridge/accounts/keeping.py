"""Accounts: made from a guest, entered from elsewhere, ended. Passwords and sessions are Django's."""

from __future__ import annotations

import re
import secrets
from hashlib import sha256

from django.contrib.auth import authenticate
from django.contrib.auth.hashers import make_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Q
from django.http import HttpRequest

from ridge.accounts.attempts import SECONDS
from ridge.accounts.models import RecoveryCode, User
from ridge.accounts.names import UnsuitableName, plain_name, skeleton

CODES = 8
"""Recovery codes that an account begins with."""
_ALPHABET = "23456789abcdefghjkmnpqrstuvwxyz"
_NAME = re.compile(r"[\w.@+-]{2,60}")
_RESERVED = re.compile(
    r"guest-.*|field-week|admin(istrator)?|root|ridge|support|help(desk)?|teacher|staff|moderator|system|owner|visitor",
    re.I,
)
_RESERVED_SKELETONS = {
    skeleton(one)
    for name in ("admin", "administrator", "root", "ridge", "support", "system")
    for one in (name, name.title(), name.upper())
}
TAKEN = "There is an account of this name already, or of one that looks like it. Choose another one, or sign in."
TOO_MANY = "Too many wrong passwords. Try again in {seconds} second{s}, or use a recovery code."
WRONG = "This name and password do not belong together."
WRONG_CODE = "This name and recovery code do not belong together, or the code was used already."


class NotKept(Exception):
    """What was given cannot be taken. The message says why and what to do."""


@transaction.atomic
def keep(user: User, name: str, hashed: str, email: str = "") -> list[str]:
    """Make an account from a guest, who keeps everything. Return the recovery codes, which are shown this once. Raises NotKept.

    ``hashed``: the password from ``hash_password``, which is slow and so is called before the transaction.
    """
    if not user.is_guest:
        raise NotKept("This is an account already.")
    user.username = check_name(name)
    user.skeleton = skeleton(user.username)
    user.password = hashed
    user.email = email
    user.is_guest = False
    user.save()
    return new_codes(user)


def check_name(name: str) -> str:
    """The name, if an account may have it. Raises NotKept."""
    try:
        name = plain_name(name)
    except UnsuitableName as why:
        raise NotKept(str(why)) from None
    if not _NAME.fullmatch(name):
        raise NotKept("A name has 2 to 60 letters, digits or the signs . @ + - _, without spaces.")
    if _RESERVED.fullmatch(name) or skeleton(name) in _RESERVED_SKELETONS:
        raise NotKept("This name is reserved. Choose another one.")
    if User.objects.filter(Q(username__iexact=name) | Q(skeleton=skeleton(name))).exists():
        raise NotKept(TAKEN)
    return name


def hash_password(user: User, password: str) -> str:
    """Return the hash of a new password. Raises NotKept for one that is too easily guessed."""
    try:
        validate_password(password, user)
    except ValidationError as weak:
        raise NotKept(" ".join(weak.messages)) from None
    return make_password(password)


def known(request: HttpRequest, name: str, password: str) -> User:
    """Return the account of a name and password. Raises NotKept, also where the next attempt has to wait."""
    named = User.objects.filter(username__iexact=name.strip(), is_guest=False).first()
    found = authenticate(request, username=named.username if named else name.strip(), password=password)
    if isinstance(found, User) and not found.is_guest:
        return found
    seconds = getattr(request, SECONDS, 0)
    raise NotKept(TOO_MANY.format(seconds=seconds, s="" if seconds == 1 else "s") if seconds else WRONG)


def prove(user: User, password: str) -> None:
    """Check the password of somebody who is signed in. Raises NotKept."""
    if not user.check_password(password):
        raise NotKept("This is not the password of your account.")


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


def recover(name: str, code: str, password: str) -> User:
    """Set a new password with one of the account's codes, which is then used up; all other sessions end. Raises NotKept."""
    user = User.objects.filter(username__iexact=name.strip(), is_guest=False).first()
    if user is None or not user.recovery_codes.filter(digest=_digest(code)).exists():
        raise NotKept(WRONG_CODE)
    hashed = hash_password(user, password)
    with transaction.atomic():
        if not user.recovery_codes.filter(digest=_digest(code)).delete()[0]:
            raise NotKept(WRONG_CODE)  # used meanwhile
        user.password = hashed
        user.save(update_fields=["password"])
    return user


def end_all_sessions(user: User) -> None:
    """Wherever they were begun; the one of who asks is to be begun anew."""
    user.signed_out = secrets.token_hex(8)
    user.save(update_fields=["signed_out"])


def _digest(code: str) -> str:
    plain = re.sub(r"[\s-]", "", code).lower()
    return sha256(plain.encode()).hexdigest()
