"""The fonts of a report: those of the page, from the built front end."""

from __future__ import annotations

from functools import cache

from django.conf import settings

from ridge.exchange.report.html import Face

_FILES = (
    ("Literata", "normal", "literata-greek-opsz-normal-*.woff2"),
    ("Literata", "italic", "literata-greek-opsz-italic-*.woff2"),
    ("Literata", "normal", "literata-latin-opsz-normal-*.woff2"),
    ("Literata", "italic", "literata-latin-opsz-italic-*.woff2"),
    ("Commissioner", "normal", "commissioner-greek-wght-normal-*.woff2"),
    ("Commissioner", "normal", "commissioner-latin-wght-normal-*.woff2"),
)


@cache
def report_faces() -> tuple[Face, ...]:
    """Those that there are; without them a reader falls back on its own."""
    assets = settings.VITE_MANIFEST.parent / "assets"
    return tuple(Face(family, style, path) for family, style, files in _FILES for path in sorted(assets.glob(files)))
