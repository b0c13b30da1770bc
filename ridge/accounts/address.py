"""From where a request comes."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def address_of(request: HttpRequest) -> str:
    """The address of whoever asks: in real use as the TLS proxy in front tells it, which adds it behind whatever was sent."""
    if settings.SERVING and (told := request.META.get("HTTP_X_FORWARDED_FOR", "")):
        return str(told).rpartition(",")[2].strip()
    return str(request.META.get("REMOTE_ADDR", ""))
