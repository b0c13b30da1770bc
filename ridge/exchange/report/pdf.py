"""A report as a tagged PDF with its fonts inside."""

from __future__ import annotations

import logging
from dataclasses import replace
from typing import Any

from ridge.exchange.faces import MISSING, faces, with_letters_that_exist
from ridge.exchange.report.content import Paragraph, Report
from ridge.exchange.report.html import write_for_pdf

REPLACED = (
    f"Letters for which this file has no face are shown as {MISSING}. The HTML and DOCX files of this report keep them."
)


class NoPdf(Exception):
    """The library that lays out pages is not there."""


def write_pdf(report: Report) -> bytes:
    """The report on A4 as PDF/UA-1 (ISO 14289-1). Raises NoPdf where Pango, which lays out its text, is not installed."""
    try:
        # Loaded when the first PDF is wanted: it needs a library of the system, without which the rest works.
        from weasyprint import HTML
        from weasyprint.text.fonts import FontConfiguration
        from weasyprint.urls import URLFetcher
    except OSError as missing:
        raise NoPdf("PDF needs the library Pango on the server. HTML and DOCX work without it.") from missing
    logging.getLogger("weasyprint").setLevel(logging.ERROR)
    shown = faces()
    html = write_for_pdf(report, shown)
    shown_html = with_letters_that_exist(html)
    if shown_html != html:
        noted = replace(report, blocks=(*report.blocks, Paragraph(REPLACED, "note")))
        shown_html = with_letters_that_exist(write_for_pdf(noted, shown))
    fonts = {face.path.as_uri() for face in shown}

    class Inside(URLFetcher):  # type: ignore[misc]
        """A report holds everything it needs: nothing is looked for outside it but its fonts."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith("data:") and url not in fonts:
                raise ValueError("A report looks for nothing outside it.")
            return super().fetch(url, headers)

    page = HTML(string=shown_html, url_fetcher=Inside())
    written: bytes = page.write_pdf(pdf_variant="pdf/ua-1", font_config=FontConfiguration())
    return written
