"""Every request noted for whoever runs the server: how often, how long, and of slow ones where the time went. No readings, no names,
no addresses: a request is known by its route alone."""

from __future__ import annotations

import logging
from collections.abc import Callable
from time import perf_counter
from typing import Any

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse
from prometheus_client import Counter, Histogram

from ridge.site.lane.elsewhere import INSIDE
from ridge.site.lane.lane import in_the_lane

log = logging.getLogger("ridge.requests")
SECONDS = Histogram(
    "ridge_request_seconds",
    "Seconds from a request to its answer.",
    ["method", "route", "status"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.2, 0.3, 0.5, 1, 2, 5, 10, 30),
)
LANE = Counter("ridge_lane_seconds", "Seconds in the long lane, waiting and being made.", ["route"])
STATEMENTS = Counter("ridge_statements", "Statements to the database.", ["route"])


class _Statements:
    """What the database was asked while a request was answered."""

    def __init__(self) -> None:
        self.count = 0
        self.seconds = 0.0

    def __call__(self, execute: Callable[..., Any], sql: str, params: Any, many: bool, context: Any) -> Any:
        began = perf_counter()
        try:
            return execute(sql, params, many, context)
        finally:
            self.count += 1
            self.seconds += perf_counter() - began


class Watched:
    """Middleware around all others."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if INSIDE in request.META:
            return self._get_response(request)  # noted where it came in
        began, asked = perf_counter(), _Statements()
        with connection.execute_wrapper(asked):
            response = self._get_response(request)
        route = request.resolver_match.route if request.resolver_match else ""
        if route or response.status_code >= 400:
            self._note(request, response, route or "elsewhere", perf_counter() - began, asked)
        return response

    def _note(
        self, request: HttpRequest, response: HttpResponse, route: str, seconds: float, asked: _Statements
    ) -> None:
        method = request.method if request.method in METHODS else "other"
        waited = in_the_lane(request)
        try:
            SECONDS.labels(method, route, str(response.status_code)).observe(seconds)
            STATEMENTS.labels(route).inc(asked.count)
            if waited:
                LANE.labels(route).inc(waited)
        except OSError as problem:  # its files are on a disk that may be full: nobody's request fails for that
            log.error("not counted: %s", problem)
        log.info("%s %s %d, %.0f ms", method, route, response.status_code, 1000 * seconds)
        if seconds >= settings.SLOW:
            log.warning(
                "slow: %s %s %d, %.0f ms: %.0f ms in the long lane, %.0f ms for %d statements, the rest computing or waiting for the processor",
                method, route, response.status_code, 1000 * seconds, 1000 * waited, 1000 * asked.seconds, asked.count,
            )  # fmt: skip


METHODS = ("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS")
