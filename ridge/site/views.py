"""The one page that carries the interface, and plain error answers."""

from __future__ import annotations

import json
from functools import lru_cache

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie

CSRF_MESSAGE = "Your session has changed since this page was loaded. Reload the page; what was saved is still there."


@lru_cache(maxsize=1)
def _built_files() -> tuple[str, tuple[str, ...]]:
    """Script and styles of the built front end, from Vite's manifest."""
    entry = json.loads(settings.VITE_MANIFEST.read_text())["src/main.tsx"]
    return entry["file"], tuple(entry.get("css", ()))


@ensure_csrf_cookie
def app(request: HttpRequest) -> HttpResponse:
    script, styles = _built_files()
    return render(request, "app.html", {"script": script, "styles": styles})


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return JsonResponse({"message": CSRF_MESSAGE}, status=403)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    if request.path.startswith("/api/"):
        return JsonResponse({"message": "There is nothing at this address."}, status=404)
    return HttpResponse(app(request).content, status=404)


def server_error(request: HttpRequest) -> HttpResponse:
    return JsonResponse({"message": "Something failed on our side. What was saved is safe. Try again."}, status=500)
