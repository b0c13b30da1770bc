"""Comments on a study in its report."""

from __future__ import annotations

from collections.abc import Iterator

from ridge.exchange.report.content import Block, Heading, Paragraph, Run, joined
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.source import Source


def comments(source: Source, _: ReportPart) -> Iterator[Block]:
    """Each with what it stands beside and who made it, and the answer to it."""
    if not source.comments:
        return
    yield Heading("Comments")
    for place, author, text, answer in source.comments:
        about = ", ".join(part for part in (place, author) if part)
        yield Paragraph(joined((Run(f"{about}: ", "bold"),), text) if about else text)
        if answer:
            yield Paragraph(f"Answer: {answer}")
