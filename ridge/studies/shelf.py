"""Cards of the shelf: a study in one glance."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

import numpy as np

from ridge.core import Fit, Interpolation
from ridge.core.wording.equation import word_equation
from ridge.core.wording.numbers import group
from ridge.studies.curves import default_view
from ridge.studies.fit_words import name_of
from ridge.studies.fits import fit_all
from ridge.studies.models import Study
from ridge.studies.readings import Status, Table, read_table
from ridge.studies.recent import Recent
from ridge.studies.schemas import CardOut, PointOut, StretchOut, ThumbnailCurveOut, ThumbnailOut
from ridge.studies.store import read_state

POINTS_DRAWN = 80
CURVE_DRAWN = 73
_recent: Recent[tuple[UUID, int], tuple[str, str, ThumbnailOut]] = Recent(400)


def card(study: Study) -> CardOut:
    """The card of a study; what is drawn on it is remembered for its version."""
    summary, equation, thumbnail = _recent.get_or_make((study.pk, study.version), lambda: _draw(study))
    return CardOut(
        id=study.pk, title=study.title, question=study.question, changed=study.changed, deleted=study.deleted,
        summary=summary, equation=equation, thumbnail=thumbnail,
    )  # fmt: skip


def _draw(study: Study) -> tuple[str, str, ThumbnailOut]:
    state = read_state(study)
    table = read_table(state)
    used = table.count(Status.USED)
    summary = f"{group(str(used))} reading{'' if used == 1 else 's'}" if used else "no readings yet"
    fitted = [one for one in fit_all(table, state.fits) if one.curve is not None and not one.wanted.hidden]
    leading = fitted[0] if fitted else None
    equation = word_equation(leading.fit, table.naming).text if leading and leading.fit else ""
    if leading and leading.interpolation:
        equation = name_of(leading)
    return summary, equation, _thumbnail(table, [(one.wanted.letter, one.curve) for one in fitted if one.curve])


def _thumbnail(table: Table, fits: Sequence[tuple[str, Fit | Interpolation]]) -> ThumbnailOut:
    view = default_view(table, None, [])

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
            return ThumbnailOut(points=[], aside=[], curves=[], bar=None)
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
