"""What holds for every answer of the API, whoever makes it: it is private, and HEAD, OPTIONS and a wrong method are answered."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

WRONG_METHOD = "This address is not asked in this way."


class OfTheApi:
    """Middleware for addresses below /api/."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path.startswith("/api/"):
            return self._get_response(request)
        method = request.method
        if method == "HEAD":
            # The same, of which nothing but the headers is sent.
            request.method = request.META["REQUEST_METHOD"] = "GET"
        response = self._get_response(request)
        if method == "HEAD":
            response["Content-Length"] = str(len(response.content))
            response.content = b""
        elif response.status_code == 405:
            response = _told(method, response.headers.get("Allow", ""))
        if not response.has_header("Cache-Control"):
            response["Cache-Control"] = "no-store"
        return response


def _told(method: str | None, allowed: str) -> HttpResponse:
    """Which methods an address takes."""
    methods = {one.strip() for one in allowed.split(",") if one.strip()} | {"OPTIONS"}
    if "GET" in methods:
        methods.add("HEAD")
    told = HttpResponse(status=204) if method == "OPTIONS" else JsonResponse({"message": WRONG_METHOD}, status=405)
    told["Allow"] = ", ".join(sorted(methods))
    return told
