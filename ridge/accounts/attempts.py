"""Wrong passwords: how long the next attempt has to wait.

Delays grow with the number of failures and are counted three ways, so that guessing is slow for one name, for one address and for one
name from many addresses, while nobody is locked out: the longest delay of a name or an address is short, and a browser that has signed
in before does not wait at all (OWASP Authentication Cheat Sheet, "Account Lockout", recommends delays that grow over locks).
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from hashlib import sha256
from math import ceil
from typing import Any, Final

from django.conf import settings
from django.contrib.auth.backends import ModelBackend
from django.core.exceptions import PermissionDenied
from django.db.models import F
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from ridge.accounts.address import address_of
from ridge.accounts.models import FailedSignIns, User
from ridge.accounts.rates import Rate

FORGOTTEN = timedelta(hours=1)
"""After so long without a failure the count begins anew."""
DEVICE: Final = "ridge-device"
DEVICE_AGE = 365 * 24 * 3600
SECONDS: Final = "seconds_to_wait"
"""Attribute of a request that was refused because it has to wait."""


@dataclass(frozen=True)
class _Limit:
    """Failures ``free`` of delay, then 1, 2, 4 … seconds, at most ``longest``."""

    free: int
    longest: float

    def delay(self, failures: int) -> timedelta:
        return timedelta(
            seconds=min(2.0 ** min(failures - self.free, 30), self.longest) if failures >= self.free else 0
        )


PAIR, NAME, ADDRESS = _Limit(4, 900), _Limit(10, 30), _Limit(20, 10)
"""For a name from one address, a name from anywhere, and any name from one address: a whole school may have one address."""
_by_device = Rate(10)
"""Attempts a minute from a known browser: one that belongs to several people must not guess without end either."""


def _counted(name: str, address: str) -> Iterator[tuple[str, _Limit]]:
    by_name, by_address = _hashed(name.strip().lower()), _hashed(address)
    yield f"{by_name} {by_address}", PAIR
    yield f"{by_name} *", NAME
    yield f"* {by_address}", ADDRESS


def _hashed(text: str) -> str:
    return sha256(text.encode()).hexdigest()[:24]


def seconds_to_wait(request: HttpRequest, name: str) -> int:
    """Return after how many seconds this name may be tried again from here; 0 for now. From a known browser also a name that others
    have tried too often."""
    if is_known_device(request, name):
        return 0 if _by_device.is_kept(name.strip().lower()) else 60
    now, longest = timezone.now(), timedelta(0)
    limits = dict(_counted(name, address_of(request)))
    for found in FailedSignIns.objects.filter(key__in=limits, last__gt=now - FORGOTTEN):
        longest = max(longest, found.last + limits[found.key].delay(found.count) - now)
    return max(ceil(longest.total_seconds()), 0)


class PatientBackend(ModelBackend):
    """Django's accounts with passwords, after the delay. Names and passwords that do not belong together are refused for good, so that
    no other backend hashes them again."""

    def authenticate(
        self, request: HttpRequest | None, username: str | None = None, password: str | None = None, **more: Any
    ) -> User:
        if request is None or username is None:
            raise PermissionDenied
        if seconds := seconds_to_wait(request, username):
            setattr(request, SECONDS, seconds)
            raise PermissionDenied
        # Counted before it is known, so that many attempts at one moment are no way around.
        _count_attempt(request, username)
        found = super().authenticate(request, username, password, **more)
        if not isinstance(found, User):
            raise PermissionDenied
        _count_back(request, username)
        return found


def _count_attempt(request: HttpRequest, name: str) -> None:
    now = timezone.now()
    for key, _ in _counted(name, address_of(request)):
        _count(key, now)


def _count(key: str, now: datetime) -> None:
    if FailedSignIns.objects.filter(key=key, last__gt=now - FORGOTTEN).update(count=F("count") + 1, last=now):
        return
    FailedSignIns.objects.update_or_create(key=key, defaults={"count": 1, "last": now})


def _count_back(request: HttpRequest, name: str) -> None:
    """Forget the failures of a name from this address; of the name elsewhere, and of other names here, the others stay."""
    (pair, _), *wider = _counted(name, address_of(request))
    FailedSignIns.objects.filter(key=pair).delete()
    FailedSignIns.objects.filter(key__in=[key for key, _ in wider], count__gt=0).update(count=F("count") - 1)


def let_try_again(name: str) -> None:
    """Forget the failures of a name from everywhere."""
    FailedSignIns.objects.filter(key__startswith=f"{_hashed(name.strip().lower())} ").delete()


def forget_failures() -> None:
    """Remove counts that no longer matter."""
    FailedSignIns.objects.filter(last__lt=timezone.now() - FORGOTTEN).delete()


def remember_device(response: HttpResponse, user: User) -> None:
    """Let the browser show that this account has signed in there before; a new password makes it unknown again."""
    response.set_signed_cookie(
        DEVICE, _device_of(user), salt=DEVICE, max_age=DEVICE_AGE, httponly=True, samesite="Lax", secure=settings.SESSION_COOKIE_SECURE
    )  # fmt: skip


def is_known_device(request: HttpRequest, name: str) -> bool:
    shown = request.get_signed_cookie(DEVICE, default="", salt=DEVICE, max_age=DEVICE_AGE)
    if not shown:
        return False
    user = User.objects.filter(username__iexact=name.strip(), is_guest=False).first()
    return user is not None and shown == _device_of(user)


def _device_of(user: User) -> str:
    return f"{user.pk}:{sha256(user.password.encode()).hexdigest()[:16]}"
