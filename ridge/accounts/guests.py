"""Starting as a guest, who is signed in, and an account taking a guest's studies over."""

from __future__ import annotations

import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth import login
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from ridge.accounts.address import address_of
from ridge.accounts.models import User
from ridge.accounts.rates import Rate, TooOften
from ridge.accounts.sessions import name_session

DEMO_USER = "field-week"
UNUSED = timedelta(seconds=settings.SESSION_COOKIE_AGE)
"""A guest's cookie lasts as long after the last visit: nobody can come back later."""
_new_guests = Rate(settings.GUESTS_A_MINUTE)


def current_user(request: HttpRequest) -> User | None:
    """Who is asking, or None for a visitor without a cookie. In the demo every visitor shares the demo's shelf."""
    if isinstance(request.user, User):
        _note_visit(request.user)
        return request.user
    if settings.MODE == "demo" and (user := User.objects.filter(username=DEMO_USER).first()):
        sign_in(request, user)
        return user
    return None


def user_or_new_guest(request: HttpRequest) -> User:
    """Who is asking; a visitor without a cookie becomes a guest, so that there is someone to own what is made."""
    user = current_user(request)
    if user is None:
        if not _new_guests.is_kept(address_of(request)):
            raise TooOften("Many people have begun from this address within a minute. Try again in a minute.")
        user = User(username=f"guest-{secrets.token_hex(12)}", is_guest=True)
        user.set_unusable_password()
        user.save()
        sign_in(request, user)
    return user


def _note_visit(user: User) -> None:
    """The day of the last visit, written once a day."""
    today = timezone.localdate()
    if user.last_visit != today:
        User.objects.filter(pk=user.pk).update(last_visit=today)
        user.last_visit = today


def forget_unused() -> int:
    """Remove guests whose cookie has run out unused, with all they made. Returns how many."""
    since = timezone.localdate() - UNUSED
    forgotten = User.objects.filter(is_guest=True, last_visit__lt=since)
    count = forgotten.count()
    forgotten.delete()
    return count


def sign_in(request: HttpRequest, user: User) -> None:
    # login() would renew the CSRF token under requests that this page already has under way.
    token = request.META.get("CSRF_COOKIE")
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    if not user.is_guest and user.username != DEMO_USER:
        name_session(request)
    if token:
        request.META["CSRF_COOKIE"] = token


@transaction.atomic
def take_over(guest: User, account: User) -> int:
    """Hand a guest's studies and worksheets to an account and forget the guest. Returns how many studies moved."""
    if not guest.is_guest or account.is_guest:
        raise ValueError("Only an account can take over, and only from a guest.")
    moved: int = guest.studies.update(owner=account)
    guest.worksheets.update(owner=account)
    guest.answered.update(owner=account)
    guest.pictures.exclude(digest__in=account.pictures.values("digest")).update(owner=account)
    guest.delete()
    return moved
