"""The one page that carries the interface, and plain error answers."""

from __future__ import annotations

import json
from functools import lru_cache

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie

CSRF_MESSAGE = "Your session has changed since this page was loaded. Reload the page; what was saved is still there."


MAIN, STUDY = "src/main.tsx", "src/bench/OpenBench.tsx"


@lru_cache(maxsize=1)
def _built_files() -> tuple[str, tuple[str, ...], tuple[str, ...]]:
    """Script and styles of the built front end, and the further scripts of a study, from Vite's manifest."""
    manifest = json.loads(settings.VITE_MANIFEST.read_text())
    wanted: dict[str, None] = {}
    left = [STUDY]
    while left:
        name = left.pop()
        if name != MAIN and name not in wanted:
            wanted[name] = None
            left += manifest[name].get("imports", ())
    entry = manifest[MAIN]
    return entry["file"], tuple(entry.get("css", ())), tuple(manifest[name]["file"] for name in wanted)


@ensure_csrf_cookie
def app(request: HttpRequest) -> HttpResponse:
    script, styles, of_study = _built_files()
    # A study's scripts are fetched side by side with the first one, not after it.
    early = of_study if request.path.startswith("/study/") else ()
    return render(request, "app.html", {"script": script, "styles": styles, "early": early})


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return JsonResponse({"message": CSRF_MESSAGE}, status=403)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    if request.path.startswith("/api/"):
        return JsonResponse({"message": "There is nothing at this address."}, status=404)
    return HttpResponse(app(request).content, status=404)


def server_error(request: HttpRequest) -> HttpResponse:
    return JsonResponse({"message": "Something failed on our side. What was saved is safe. Try again."}, status=500)
