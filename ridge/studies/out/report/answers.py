"""The answers of a report, with what to beware of beside them."""

from __future__ import annotations

from collections.abc import Iterator

from ridge.core.numerals import join
from ridge.core.wording.preference import word_preference
from ridge.exchange.report.content import NUMBER, TEXT, Block, Grid, Heading, Paragraph, Run, joined
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.source import Source, name
from ridge.studies.words.fit_schemas import DrawnFit
from ridge.studies.words.schemas import AnswerOut


def answers(source: Source, _: ReportPart) -> Iterator[Block]:
    """Every answer; then the cautions of the fits that gave them, and which of several fits is to be preferred."""
    asked = _asked(source)
    if not asked:
        return
    yield Heading("Answer" if len(asked) == 1 else "Answers")
    for called, answer in asked:
        yield from _answer(called, answer, source)
    for fit in source.analysis.fits:
        if isinstance(fit, DrawnFit) and fit.letter in answered(source):
            about = "On the model of this answer" if len(asked) == 1 else "On the model of these answers"
            about += f" ({source.title(fit)}): " if len(source.shown) > 1 else ": "
            yield from (
                Paragraph(f"{about}{caution.message} {caution.remedy}".strip(), "caution") for caution in fit.cautions
            )
    if said := preferred(source):
        yield Paragraph(said)


def preferred(source: Source) -> str:
    """Which of several fits is to be preferred."""
    fits = [(f"{fit.letter} ({name(fit)})", found) for fit in source.drawn if (found := source.fit(fit.letter))]
    return word_preference(fits, source.table.naming)


def answered(source: Source) -> set[str]:
    """Letters of the fits whose cautions stand beside the answers."""
    if not any(part.part == "answers" and part.shown for part in source.state.report):
        return set()
    return {letter for _, answer in _asked(source) for letter in _letters(source, answer)}


def _asked(source: Source) -> list[tuple[str, AnswerOut]]:
    unknowns = [(unknown.label, unknown.answer) for unknown in source.analysis.unknowns]
    return [*unknowns, *((answer.name, answer) for answer in source.analysis.answers)]


def _letters(source: Source, answer: AnswerOut) -> list[str]:
    if answer.fit == "all":
        return [fit.letter for fit in source.drawn]
    leading = source.leading
    return [answer.fit] if answer.fit else [leading.letter] if leading else []


def _answer(called: str, answer: AnswerOut, source: Source) -> Iterator[Block]:
    called = f"{called}: " if called else ""
    several = len(source.drawn) > 1 and answer.fit != "all"
    by = f" (fit {join(_letters(source, answer))})" if several and _letters(source, answer) else ""
    if answer.problem:
        yield Paragraph(f"{called}{answer.asked}: {answer.problem}".replace(": :", ":"), "caution")
    elif len(answer.rows) > 1:
        rows = tuple(
            (f"{row.asked} {row.letter}".strip(), row.result or row.problem, row.curve, row.new, row.place)
            for row in answer.rows
        )
        head = ("asked", "answer", "confidence interval, curve", "prediction interval, new reading", "position")
        kinds = (TEXT, NUMBER, NUMBER, NUMBER, TEXT)
        kept = [place for place in range(len(head)) if place < 2 or any(row[place] for row in rows)]
        yield Grid(
            f"Answers to {called}{answer.asked}{by}.".replace(": .", ".").replace(":.", "."),
            tuple(head[place] for place in kept),
            tuple(tuple(row[place] for place in kept) for row in rows),
            tuple(kinds[place] for place in kept),
        )
    else:
        rest = " ".join(part for part in (answer.sentence, answer.place, answer.beyond_says) if part)
        said = joined(f"{called}{answer.asked}{by}: ", (Run(answer.result, "bold"),), f". {rest}".rstrip(". ") + ".")
        yield Paragraph(said)
