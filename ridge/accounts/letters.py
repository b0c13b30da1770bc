"""Letters by e-mail for whoever lost a password. Keys are Django's: signed, for a day, and void once used or once the password changes."""

from __future__ import annotations

import logging
from collections.abc import Iterable
from threading import Thread

from django.conf import settings
from django.contrib.auth.tokens import default_token_generator
from django.core.exceptions import ValidationError
from django.core.mail import EmailMessage
from django.core.validators import validate_email
from django.db.models import Q
from django.utils.encoding import force_bytes, force_str
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode

from ridge.accounts.keeping import NotKept, hash_password
from ridge.accounts.models import User

log = logging.getLogger(__name__)
AT_ONCE = 5
"""Accounts of one e-mail address that get a letter each."""
VOID = "This letter's link does not hold any more: it was used, or is older than a day. Ask for another letter."
TEXT = """Somebody, most likely you, asked for a new password for the account {name} of Ridge.

Choose one here within a day:

{link}

If that was not you, nothing needs to be done: the old password holds.
"""


def are_sent() -> bool:
    """Whether there is a mail server, or the outbox that stands in for one."""
    return bool(settings.EMAIL_BACKEND)


def check_email(email: str) -> str:
    """The address, or none. Raises NotKept."""
    email = email.strip()
    if email:
        try:
            validate_email(email)
        except ValidationError:
            raise NotKept("This is no e-mail address. It may also be left empty.") from None
    return email


def send_letter(name: str, page: str) -> None:
    """A letter to the account of that name, or to those of that e-mail address; ``page``: where a new password is chosen. It is sent aside:
    nobody learns from the time it takes whether there is one."""
    meant = User.objects.filter(Q(username__iexact=name) | Q(email__iexact=name), is_guest=False, is_active=True)
    send_letter_to(meant.exclude(email="")[:AT_ONCE], page)


def send_letter_to(people: Iterable[User], page: str) -> None:
    messages = [EmailMessage("A new password for Ridge", letter(user, page), to=[user.email]) for user in people]
    Thread(target=_send, args=(messages,)).start()


def _send(messages: list[EmailMessage]) -> None:
    try:
        for message in messages:
            message.send()
    except Exception as problem:  # a mail server that does not answer: whoever runs this one finds it in the log
        log.error("A letter could not be sent: %s", type(problem).__name__)


def letter(user: User, page: str) -> str:
    """Its text."""
    return TEXT.format(name=user.username, link=f"{page}#{key_for(user)}")


def key_for(user: User) -> str:
    return f"{urlsafe_base64_encode(force_bytes(user.pk))}.{default_token_generator.make_token(user)}"


def new_password(key: str, password: str) -> User:
    """For whoever has a letter's key. Raises NotKept."""
    whose, _, token = key.partition(".")
    try:
        user = User.objects.filter(pk=force_str(urlsafe_base64_decode(whose)), is_guest=False, is_active=True).first()
    except (ValueError, OverflowError, UnicodeDecodeError):
        user = None
    if user is None or not default_token_generator.check_token(user, token):
        raise NotKept(VOID)
    user.password = hash_password(user, password)
    user.save(update_fields=["password"])
    return user
