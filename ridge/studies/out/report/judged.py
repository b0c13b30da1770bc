"""How well the fits hold, what to beware of, and how they were made."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ridge.core.wording.references import FIELLER, references, works_behind
from ridge.exchange.report.content import NUMBER, TEXT, Block, Grid, Heading, Listing, Paragraph, Text, symbol
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.answers import answered, preferred
from ridge.studies.out.report.source import Source
from ridge.studies.words.fit_schemas import ComputedFit

_FIRST = (
    "degrees_of_freedom", "r_squared", "adjusted_r_squared", "typical_miss", "residual_standard_deviation",
    "residual_sum_of_squares",
)  # fmt: skip
_TESTS = ("f_statistic", "f_p_value", "chi_squared", "reduced_chi_squared", "aicc", "bic")


def judgement(source: Source, _: ReportPart) -> Iterator[Block]:
    """How well each fit holds in a sentence, and the first of its statistics."""
    if not source.drawn:
        return
    yield Heading("How well it fits" if len(source.drawn) == 1 else "How well they fit")
    for fit in source.drawn:
        yield Paragraph(f"{source.called(fit)}{fit.how_well}")
    if not answered(source) and (said := preferred(source)):
        yield Paragraph(said)
    yield from _statistics(source, _FIRST, "Goodness of fit.")


def tests(source: Source, _: ReportPart) -> Iterator[Block]:
    """Whether each parameter differs from zero, and whether the curve as a whole explains anything."""
    tested = [fit for fit in source.computed if any(one.t for one in fit.parameters)]
    if not tested:
        return
    yield Heading("Tests")
    for fit in tested:
        rows: list[tuple[Text, ...]] = [(symbol(one.symbol), one.t, one.p) for one in fit.parameters if one.t]
        caption = f"Each parameter{source.of(fit)} against zero: t is its value over its standard error, p two-sided."
        yield Grid(caption, ("parameter", "t", "p"), tuple(rows), (TEXT, NUMBER, NUMBER))
    yield from _statistics(source, _TESTS, "Tests and criteria of the fit as a whole.")


def _statistics(source: Source, names: Sequence[str], caption: str) -> Iterator[Block]:
    measured = [fit for fit in source.computed if fit.statistics]
    labels = {
        row.name: row for fit in measured for row in fit.statistics if row.name in names and not row.absent
    }  # in the order of the statistics
    if not labels:
        return
    values = {fit.letter: {row.name: f"{row.value} {row.unit}".strip() for row in fit.statistics} for fit in measured}
    # Where some are in logarithms and some in y, or weighted and not, no one meaning holds for all.
    alike = len({(fit.least_squares_in == "logarithms", _weighted(fit)) for fit in measured}) == 1
    rows = [
        (row.label, *(values[fit.letter].get(name, "–") for fit in measured), *((row.meaning,) if alike else ()))
        for name, row in labels.items()
    ]
    heads = [fit.letter if len(measured) > 1 else "value" for fit in measured]
    head = ("quantity", *heads, *(("meaning",) if alike else ()))
    yield Grid(caption, head, tuple(rows), (TEXT, *[NUMBER] * len(measured), *([TEXT] if alike else [])))


def _weighted(fit: ComputedFit) -> bool:
    return any(row.name == "typical_miss" for row in fit.statistics)


def cautions(source: Source, _: ReportPart) -> Iterator[Block]:
    """What to beware of, as far as it does not stand beside an answer already."""
    said = answered(source)
    found = [
        f"{source.called(fit)}{caution.message} {caution.remedy}".strip()
        for fit in source.drawn
        if fit.letter not in said
        for caution in fit.cautions
    ]
    if found:
        yield Heading("Cautions")
        yield from (Paragraph(text, "caution") for text in found)


def method(source: Source, _: ReportPart) -> Iterator[Block]:
    """What was done to get each fit, and where that is described."""
    drawn = source.drawn
    if not drawn:
        return
    curves = {one.wanted.letter: one.curve for one in source.fitted if one.curve is not None}
    works = references([curves[fit.letter] for fit in drawn if fit.letter in curves], inverse=source.asked_x)
    yield Heading("Method")
    for fit in drawn:
        behind = works_behind(curves[fit.letter]) if fit.letter in curves else set()
        yield Paragraph(f"{source.called(fit)}{_citing(fit.method, behind, works)}")
        if isinstance(fit, ComputedFit) and fit.rounding:
            yield Paragraph(f"{source.called(fit)}{fit.rounding}", "note")
    if FIELLER in works:
        yield Paragraph(_citing("Limits of an x that was found from a y follow Fieller's theorem.", {FIELLER}, works))
    if works:
        yield Heading("References")
        yield Listing(tuple(works))


def _citing(sentence: str, behind: set[str], works: Sequence[str]) -> str:
    """The sentence with the numbers of the works that describe its method."""
    numbers = [str(place) for place, work in enumerate(works, 1) if work in behind]
    return f"{sentence.removesuffix('.')}\u00a0[{', '.join(numbers)}]." if numbers else sentence
