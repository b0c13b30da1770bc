"""A report as a tagged PDF with its fonts inside."""

from __future__ import annotations

import logging
from collections.abc import Sequence
from typing import Any

from ridge.exchange.report.content import Report
from ridge.exchange.report.html import Face, write_html


class NoPdf(Exception):
    """The library that lays out pages is not there."""


def write_pdf(report: Report, faces: Sequence[Face]) -> bytes:
    """The report on A4. Raises NoPdf where Pango, which lays out its text, is not installed."""
    try:
        # Loaded when the first PDF is wanted: it needs a library of the system, without which the rest works.
        from weasyprint import HTML
        from weasyprint.urls import URLFetcher
    except OSError as missing:
        raise NoPdf("PDF needs the library Pango on the server. HTML and DOCX work without it.") from missing
    logging.getLogger("weasyprint").setLevel(logging.ERROR)
    html = write_html(report, faces, for_pdf=True)
    fonts = {face.path.as_uri() for face in faces}

    class Inside(URLFetcher):  # type: ignore[misc]
        """A report holds everything it needs: nothing is looked for outside it but its fonts."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith("data:") and url not in fonts:
                raise ValueError("A report looks for nothing outside it.")
            return super().fetch(url, headers)

    written: bytes = HTML(string=html, url_fetcher=Inside()).write_pdf(pdf_tags=True)
    return written
