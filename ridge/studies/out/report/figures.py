"""The figures of a report, with captions that say what every kind of mark means, and with what they show in words."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from ridge.core.judging.patterns import pattern_of
from ridge.core.numerals import capital, count_word, group, join, significant
from ridge.core.wording.limits import level_text
from ridge.core.wording.naming import with_unit
from ridge.exchange.figure import CannotDraw, FigureContent, draw
from ridge.exchange.figure.layout import Only
from ridge.exchange.report.content import Block, Heading, Paragraph, Picture
from ridge.studies.content.state import ReportPart
from ridge.studies.out.figure import figure_content
from ridge.studies.out.report.source import Source, name
from ridge.studies.words.fit_schemas import ComputedFit, DrawnFit
from ridge.studies.words.picture_words import credit_line

WIDTH = 170.0  # mm: that of the text
RESOLUTION = 220
ASPECT, ALONE = 0.62, 0.4
"""Height over width of the plot with its residuals, and of the residuals alone: both leave room for text on the page."""


def figure(source: Source, _: ReportPart) -> Iterator[Block]:
    """The plot with the strip of residuals below it."""
    yield from _drawn(source, "", _caption, _in_words)


def residual_plot(source: Source, _: ReportPart) -> Iterator[Block]:
    """The residuals of the leading fit as a figure of their own."""
    leading = source.leading
    if not isinstance(leading, ComputedFit) or leading.hidden or not leading.residuals:
        return
    yield Heading("Residuals")
    yield from _drawn(source, "residuals", _caption_of_residuals, _residuals_in_words)


_Said = Callable[[Source, FigureContent], str]


def _drawn(source: Source, only: Only, caption: _Said, alternative: _Said) -> Iterator[Block]:
    aspect = ALONE if only else ASPECT
    underlay = source.underlay if not only else None
    # What stands in the caption does not stand in the figure as well.
    content = replace(figure_content(source.state, source.analysis, aspect=aspect, picture=underlay), title="", note="")
    try:
        image = draw(content, source.picture, WIDTH, RESOLUTION, only=only)
    except CannotDraw as reason:
        yield Paragraph(str(reason), "note")
        return
    yield Picture(image, alternative(source, content), caption(source, content), WIDTH)


def _caption(source: Source, content: FigureContent) -> str:
    """Which curves there are, and what each kind of mark in it means."""
    against = f"{_quantity(source, 'y')} against {_quantity(source, 'x')}"
    if len(source.drawn) == 1:
        with_curves = f", with curve {source.drawn[0].letter}, {name(source.drawn[0])}"
    else:
        curves = [f"{fit.letter}, {name(fit)}" for fit in source.drawn]
        with_curves = f", with curves {join(curves)}" if curves else ""
    below = [credit_line(source.state.picture)] if content.picture and source.state.picture else []
    return f"{capital(against)}{with_curves}. {' '.join([*_meanings(source, content), *below])}".strip()


def _meanings(source: Source, content: FigureContent) -> Iterator[str]:
    aside = any(series.aside.any() for series in content.series)
    assumed = any((series.assumed & series.used).any() for series in content.series)
    low, high = content.x_axis.view
    leading = source.drawn[0].letter if source.drawn else ""
    of = f" of {leading}" if len(source.drawn) > 1 else ""
    if aside:
        yield "Hollow marks: readings set aside."
    if assumed:
        yield "Hollow marks with a cross: assumed readings."
    if content.x_error is not None or content.y_error is not None:
        yield "Error bars: standard uncertainties."
    if content.measured:
        yield "Heavy bar: the measured range."
        if low < content.measured[0] or high > content.measured[1]:
            yield f"Hatching{' and dotted curves' if content.curves else ''}: beyond it."
    if content.curves and content.curves[0].low is not None and np.isfinite(content.curves[0].low).any():
        yield f"Band: {level_text(source.state.level)} confidence interval of the curve{of}."
    if content.marks:
        yield (
            "Diamonds with dashed lines: answers."
            if len(content.marks) > 1
            else "Diamond with dashed lines: the answer."
        )
    if content.residuals is not None:
        band = "; band: one typical miss to either side" if content.deviation else ""
        yield f"Below: residuals{of}{band}."


def _quantity(source: Source, role: str) -> str:
    naming = source.table.naming
    return getattr(naming, f"{role}_name") or getattr(naming, role)  # type: ignore[no-any-return]


def _in_words(source: Source, content: FigureContent) -> str:
    """What someone who cannot see the figure should know of it: ranges, trend, curves, residuals."""
    used = np.logical_or.reduce([series.used for series in content.series])
    readings = source.table.readings
    count = int(used.sum())
    said = [f"Plot of {_quantity(source, 'y')} against {_quantity(source, 'x')}, {group(str(count))} readings."]
    if count:
        said.append(f"{_range(source, 'x', readings.x[used])}; {_range(source, 'y', readings.y[used])}.")
    for fit in source.drawn:
        equation = f": {fit.equation_text}" if isinstance(fit, ComputedFit) else ""
        said.append(f"Curve {fit.letter}, {name(fit)}{equation}, {_course(fit)}.")
    if content.residuals is not None:
        said.append(_residuals_in_words(source, content))
    if content.picture and source.state.picture:
        described = source.state.picture.description.strip().rstrip(".")
        said.append(f"Behind it a picture{f': {described}' if described else ', which is not described'}.")
    return " ".join(said)


def _range(source: Source, role: str, values: np.ndarray) -> str:
    naming = source.table.naming
    low, high = (significant(float(end), 4, strip=True).text for end in (values.min(), values.max()))
    return f"{getattr(naming, role)} from {low} to {with_unit(high, getattr(naming, f'{role}_unit'))}"


def _course(fit: DrawnFit) -> str:
    """How a curve goes over the measured range: ``falls``, ``rises, then falls``."""
    curve, measured = fit.curve, fit.measured
    if curve is None:
        return "drawn through the readings"
    y = np.array(
        [
            value
            for x, value in zip(curve.x, curve.y, strict=True)
            if value is not None and measured.low <= x <= measured.high
        ]
    )
    steps = np.diff(y)
    steps = steps[np.abs(steps) > 1e-6 * (np.ptp(y) if len(y) else 0.0)]
    signs = [bool(step > 0) for step in steps]
    ways = [sign for place, sign in enumerate(signs) if place == 0 or sign != signs[place - 1]]
    if not ways:
        return "is level"
    if len(ways) > 4:
        return f"rises and falls with {count_word(len(ways) - 1)} turns"
    return ", then ".join("rises" if way else "falls" for way in ways)


def _caption_of_residuals(source: Source, content: FigureContent) -> str:
    leading = source.drawn[0]
    band = " Band: one typical miss to either side." if content.deviation else ""
    return f"Residuals (reading less fitted value){source.of(leading)} against {_quantity(source, 'x')}.{band}"


def _residuals_in_words(source: Source, content: FigureContent) -> str:
    assert content.residuals is not None
    known = content.residuals[np.isfinite(content.residuals) & np.logical_or.reduce([s.used for s in content.series])]
    if not len(known):
        return "There are no residuals."
    low, high = (significant(float(end), 2).text for end in (known.min(), known.max()))
    naming, letter = source.table.naming, source.analysis.fits[0].letter
    fit = source.fit(letter)
    pattern = ""
    if fit is not None and fit.statistics.degrees_of_freedom > 0:
        pattern = ", in a pattern unlikely by chance" if pattern_of(fit).visible else ", with no significant pattern"
    return f"Residuals of {letter} from {low} to {naming.y_with_unit(high)}{pattern}."
