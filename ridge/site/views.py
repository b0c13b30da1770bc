"""The one page that carries the interface, and plain error answers."""

from __future__ import annotations

import json
import re
from functools import lru_cache
from typing import NamedTuple

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.csrf import ensure_csrf_cookie

CSRF_MESSAGE = "Your session has changed since this page was loaded. Reload the page; what was saved is still there."


MAIN, STUDY = "src/main.tsx", "src/bench/OpenBench.tsx"
FIRST_FACES = re.compile(r"/(commissioner|literata)-latin-(?!ext)\S+\.woff2$")


class BuiltFiles(NamedTuple):
    script: str
    styles: tuple[str, ...]
    of_study: tuple[str, ...]
    """Further scripts of a study."""
    faces: tuple[str, ...]
    """Of nearly all text: nothing is drawn before they are there."""


@lru_cache(maxsize=1)
def _built_files() -> BuiltFiles:
    """What Vite's manifest says of the built front end."""
    manifest = json.loads(settings.VITE_MANIFEST.read_text())
    wanted: dict[str, None] = {}
    left = [STUDY]
    while left:
        name = left.pop()
        if name != MAIN and name not in wanted:
            wanted[name] = None
            left += manifest[name].get("imports", ())
    entry = manifest[MAIN]
    return BuiltFiles(
        script=entry["file"],
        styles=tuple(entry.get("css", ())),
        of_study=tuple(manifest[name]["file"] for name in wanted),
        faces=tuple(filter(FIRST_FACES.search, entry.get("assets", ()))),
    )


@ensure_csrf_cookie
def app(request: HttpRequest) -> HttpResponse:
    files = _built_files()
    # A study's scripts are fetched side by side with the first one, not after it.
    early = files.of_study if request.path.startswith("/study/") else ()
    return render(request, "app.html", {"files": files, "early": early})


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    return JsonResponse({"message": CSRF_MESSAGE}, status=403)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    if request.path.startswith("/api/"):
        return JsonResponse({"message": "There is nothing at this address."}, status=404)
    return HttpResponse(app(request).content, status=404)


def server_error(request: HttpRequest) -> HttpResponse:
    return JsonResponse({"message": "Something failed on our side. What was saved is safe. Try again."}, status=500)
