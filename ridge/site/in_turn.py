"""Requests take their turn when all of them has arrived."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, UnreadablePostError

from ridge.studies.one_at_a_time import turn


class InTurn:
    """Middleware around all that computes."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        # A slow connection holds nobody up. What is too large, or was cut off, is refused where it is read.
        with suppress(RequestDataTooBig, UnreadablePostError):
            _ = request.body
        with turn():
            return self._get_response(request)
