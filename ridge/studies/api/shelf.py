"""Cards of the shelf: a study in one glance."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np

from ridge.core.interpolation import Interpolation
from ridge.core.numerals import group
from ridge.core.results.fit import Fit
from ridge.studies.analysis.curves import StretchOut, default_view
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.apart import Failures
from ridge.studies.content.readings import Status, Table, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.recent import Recent
from ridge.studies.words.fit_words import equation_of, name_of
from ridge.studies.words.schemas import CardOut, PointOut, ThumbnailCurveOut, ThumbnailOut

POINTS_DRAWN = 80
CURVE_DRAWN = 73


_BLANK = ThumbnailOut(points=[], aside=[], curves=[], bar=None)


@dataclass(frozen=True)
class _Drawn:
    """What a card shows of the readings (how many are in use) and the fits; ``whole``: nothing failed in the making."""

    readings: int
    summary: str
    equation: tuple[str, str]
    thumbnail: ThumbnailOut
    whole: bool


_recent: Recent[tuple[UUID, int], _Drawn] = Recent(400, worded=True)


def card(study: Study) -> CardOut:
    """The card of a study; what is drawn on it is remembered for its version. What fails is said on the card itself."""
    drawn = _recent.get_or_make((study.pk, study.version), lambda: _draw(study), worth=lambda one: one.whole)
    return CardOut(
        id=study.pk, title=study.title, question=study.question, changed=study.changed, deleted=study.deleted,
        readings=drawn.readings, summary=drawn.summary, equation=drawn.equation[0], equation_latex=drawn.equation[1], thumbnail=drawn.thumbnail,
    )  # fmt: skip


def _draw(study: Study) -> _Drawn:
    failures = Failures()
    table = failures.apart("reading the study", lambda: _read(study), lambda: None)
    if table is None:
        return _Drawn(0, "could not be read; nothing of it is lost", ("", ""), _BLANK, False)
    state, readings = table
    used = readings.count(Status.USED)
    summary = f"{group(str(used))} reading{'' if used == 1 else 's'}" if used else "no readings yet"
    fitted = failures.apart("the fits of a card", lambda: fit_all(readings, state.linked_fits), lambda: [])
    seen = [one for one in fitted if one.curve is not None and not one.wanted.hidden]
    equation = failures.apart("the equation of a card", lambda: _equation(seen, readings), lambda: ("", ""))
    curves = [(one.wanted.letter, one.curve) for one in seen if one.curve]
    thumbnail = failures.apart("a thumbnail", lambda: _thumbnail(readings, curves), lambda: _BLANK)
    if failures or any(one.refusal for one in fitted):
        summary = f"{summary}; not everything could be drawn"
    return _Drawn(used, summary, equation, thumbnail, not failures and not any(one.by_accident for one in fitted))


def _read(study: Study) -> tuple[StudyState, Table]:
    state = read_state(study)
    return state, read_table(state)


def _equation(seen: Sequence[Fitted], table: Table) -> tuple[str, str]:
    """What leads, in one line: as text and as LaTeX, that empty where it has no equation."""
    leading = seen[0] if seen else None
    if leading is None:
        return "", ""
    if leading.fit is None:
        return name_of(leading), ""
    equation = equation_of(leading, leading.fit, table.naming)
    return equation.text, equation.latex


def _thumbnail(table: Table, fits: Sequence[tuple[str, Fit | Interpolation]]) -> ThumbnailOut:
    view = default_view(table, None)

    def scaled(x: np.ndarray, y: np.ndarray) -> list[PointOut]:
        u = np.clip((x - view.x.low) / (view.x.high - view.x.low), -1, 2)
        v = np.clip((y - view.y.low) / (view.y.high - view.y.low), -1, 2)
        return [PointOut(x=round(a, 4), y=round(b, 4)) for a, b in zip(u.tolist(), v.tolist(), strict=True)]

    def thinned(status: Status) -> list[PointOut]:
        rows = np.flatnonzero(table.status == status)
        if len(rows) > POINTS_DRAWN:
            rows = rows[np.linspace(0, len(rows) - 1, POINTS_DRAWN).astype(int)]
        return scaled(table.readings.x[rows], table.readings.y[rows])

    with np.errstate(all="ignore"):
        if not np.isfinite(view.x.high - view.x.low) or not np.isfinite(view.y.high - view.y.low):
            return _BLANK
        places = np.linspace(view.x.low, view.x.high, CURVE_DRAWN)

        def drawn(fit: Fit | Interpolation) -> list[PointOut]:
            values = fit.evaluate(places)
            return scaled(places[np.isfinite(values)], values[np.isfinite(values)])

        curves = [ThumbnailCurveOut(letter=letter, points=drawn(fit)) for letter, fit in fits]
        measured = np.array(table.readings.measured_range)
        bar = None
        if np.isfinite(measured).all():
            low, high = (measured - view.x.low) / (view.x.high - view.x.low)
            bar = StretchOut(low=round(float(low), 4), high=round(float(high), 4))
        return ThumbnailOut(points=thinned(Status.USED), aside=thinned(Status.ASIDE), curves=curves, bar=bar)
