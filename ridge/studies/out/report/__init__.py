"""The report of a study: its page as blocks, in the order and with the parts that are wanted."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import Literal

from ridge.exchange.report.content import Block, Paragraph, Report, numbered, with_symbols
from ridge.studies.content.state import ReportPart, StudyState
from ridge.studies.out.report.answers import answers
from ridge.studies.out.report.commented import comments
from ridge.studies.out.report.figures import figure, residual_plot
from ridge.studies.out.report.followed_working import working
from ridge.studies.out.report.judged import cautions, judgement, method, tests
from ridge.studies.out.report.models import correlations, equation_errors, model, parameters
from ridge.studies.out.report.own_paragraphs import own
from ridge.studies.out.report.readings_table import readings
from ridge.studies.out.report.source import Remark, Source
from ridge.studies.words.fit_schemas import ComputedFit
from ridge.studies.words.schemas import AnalysisOut

Part = Callable[[Source, ReportPart], Iterator[Block]]


def question(source: Source, _: ReportPart) -> Iterator[Block]:
    """What is asked."""
    if source.state.question:
        yield Paragraph(source.state.question, "lead")


PARTS: dict[str, Part] = {
    "question": question,
    "answers": answers,
    "figure": figure,
    "model": model,
    "equation_errors": equation_errors,
    "parameters": parameters,
    "correlations": correlations,
    "judgement": judgement,
    "tests": tests,
    "residual_plot": residual_plot,
    "cautions": cautions,
    "readings": readings,
    "method": method,
    "comments": comments,
    "own": own,
    "working": working,
}


def report_of(
    state: StudyState,
    analysis: AnalysisOut,
    picture: Literal["svg", "png"] = "svg",
    underlay: bytes | None = None,
    remarks: Sequence[Remark] = (),
) -> Report:
    """The report with the parts that are shown, its figures drawn as ``picture``, figures and tables numbered. ``underlay``: the bytes of
    the picture under the plot; ``remarks``: the comments on the study."""
    source = Source(state, analysis, picture, underlay, remarks)
    blocks = [block for part in state.report if part.shown for block in PARTS[part.part](source, part)]
    naming = source.table.naming
    symbols = [
        naming.x,
        naming.y,
        *(one.symbol for fit in analysis.fits if isinstance(fit, ComputedFit) for one in fit.parameters),
    ]
    return Report(state.title, state.author, state.date, numbered(with_symbols(blocks, symbols)))
