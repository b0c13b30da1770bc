"""Two pages for whoever runs the server, told to nobody else: whether it is well, and what it has counted."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from os import environ

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

LOCAL = ("127.0.0.1", "::1")
FROM_A_PROXY = ("HTTP_X_FORWARDED_FOR", "HTTP_X_FORWARDED_PROTO", "HTTP_FORWARDED")
LEAST_ROOM = 50_000_000
"""Bytes that have to be free where the data are."""


class ForTheHost:
    """Middleware for ``/healthz`` and ``/metrics``, asked on this machine and not through the proxy in front."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = {"/healthz": health, "/metrics": metrics}.get(request.path)
        if answer is None or not _is_local(request):
            return self._get_response(request)
        return answer()


def _is_local(request: HttpRequest) -> bool:
    return request.META.get("REMOTE_ADDR") in LOCAL and not any(name in request.META for name in FROM_A_PROXY)


def health() -> HttpResponse:
    """200 and "well", or 503 and what is wrong."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1 FROM studies_study LIMIT 1")
    except DatabaseError:
        return _said("The database does not answer.", 503)
    free = shutil.disk_usage(settings.DATA).free
    if free < LEAST_ROOM:
        return _said(f"Only {free // 1_000_000} MB are left on the disk of the data.", 503)
    return _said("well", 200)


def _said(text: str, status: int) -> HttpResponse:
    return HttpResponse(f"{text}\n", status=status, content_type="text/plain; charset=utf-8")


def metrics() -> HttpResponse:
    """What all processes of the server have counted since it started, in the text format of OpenMetrics' predecessor that most
    collectors read."""
    registry = REGISTRY
    if "PROMETHEUS_MULTIPROC_DIR" in environ:
        registry = CollectorRegistry()
        MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)
