"""Fits to shares of the readings: drawn by a seed, so that the same question has the same answer."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ridge.core.fitting.effort import Effort
from ridge.core.judging.misses import typical_miss
from ridge.core.judging.resampling import Draw, each_in_turn, k_fold, movement, random_shares, root_mean_square
from ridge.core.numerals import significant
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.core.wording.resampling import word_failed, word_left_out, word_movement
from ridge.studies.analysis.curves import default_view, finite
from ridge.studies.analysis.fit_words import name_of
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.analysis.lens_schemas import (
    DrawOut,
    ResampledOut,
    ResamplingIn,
    ResamplingOut,
)
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState

MOST_READINGS = 20_000
MOST_IN_TURN = 60
SAMPLES = 201
EFFORT = 1e10
"""Work for the draws of one fit: those not begun when it is spent count as not fitted."""

NOTHING_FITTED = (
    "There is nothing to refit. Add a model first; an interpolation or a curve with given numbers does not change."
)
TOO_MANY = "With more than 20\u202f000 readings a fit hardly depends on which of them are used, and resampling takes long. Choose a range of x, or fewer readings."
TOO_FEW = "There are too few readings to hold any out: at least 3 are needed."
TOO_MANY_IN_TURN = f"Leave-one-out is for {MOST_IN_TURN} readings at most. Choose k-fold or random subsets."
OTHER_READINGS = "Not shown, since they are fitted to other readings"


def resampling_of(state: StudyState, wanted: ResamplingIn) -> ResamplingOut:
    """The chosen fits on the same draws, the first of them deciding which readings these are drawn from."""
    table = read_table(state)
    fitted = fit_all(table, state.linked_fits)
    movable = [one for one in fitted if one.fit is not None and one.fit.least_squares_in != "given"]
    chosen = [one for one in movable if one.wanted.letter in wanted.letters] or movable[:1]
    out = ResamplingOut(
        letters=[one.wanted.letter for one in movable], left_out=[], fits=[], remark="",
        view=default_view(table, fitted[0].fit if fitted else None, []),
    )  # fmt: skip
    if not chosen or chosen[0].fit is None:
        return out.model_copy(update={"remark": NOTHING_FITTED})
    first = chosen[0].fit
    used = int(first.readings.used.sum())
    why = _refusal(used, wanted)
    if why:
        return out.model_copy(update={"remark": why})
    same = [one for one in chosen if one.fit and np.array_equal(one.fit.readings.used, first.readings.used)]
    others = [one.wanted.letter for one in chosen if one not in same]
    draws = [_draws(one.fit, wanted, used) for one in same if one.fit]
    rows = first.readings.used
    return out.model_copy(
        update={
            "left_out": [np.flatnonzero(rows & ~draw.included).tolist() for draw in draws[0]],
            "fits": [
                _word(one, found, (out.view.x.low, out.view.x.high), table.naming)
                for one, found in zip(same, draws, strict=True)
            ],
            "remark": f"{OTHER_READINGS}: {', '.join(others)}." if others else "",
        }
    )


def _refusal(used: int, wanted: ResamplingIn) -> str:
    if used < 3:
        return TOO_FEW
    if used > MOST_READINGS:
        return TOO_MANY
    return TOO_MANY_IN_TURN if wanted.kind == "in_turn" and used > MOST_IN_TURN else ""


def _draws(fit: Fit, wanted: ResamplingIn, used: int) -> list[Draw]:
    if wanted.kind == "in_turn":
        return each_in_turn(fit, Effort(EFFORT))
    if wanted.kind == "parts":
        return k_fold(fit, min(wanted.parts, used), wanted.seed, Effort(EFFORT))
    return random_shares(fit, wanted.share / 100, wanted.times, wanted.seed, Effort(EFFORT))


def _word(one: Fitted, draws: Sequence[Draw], stretch: tuple[float, float], naming: Naming) -> ResampledOut:
    fit = one.fit
    assert fit is not None
    found = list(draws)
    error, scatter = root_mean_square(found, fit), None if fit.statistics.exact else typical_miss(fit)
    failed = sum(draw.fit is None for draw in found)
    sentences = (
        word_left_out(error, scatter, naming),
        word_movement(movement(found, fit), naming),
        word_failed(failed, len(found)),
    )
    x = np.linspace(*stretch, SAMPLES)

    def curve(draw: Draw) -> list[float | None]:
        with np.errstate(all="ignore"):
            return [] if draw.fit is None else finite(draw.fit.evaluate(x))

    def miss(value: float | None) -> str:
        return "–" if value is None or not math.isfinite(value) else naming.y_with_unit(significant(value, 3).text)

    return ResampledOut(
        letter=one.wanted.letter, name=one.wanted.name or name_of(one), parameters=len(fit.model.free_names),
        own=miss(scatter), left_out=miss(error), error=error if math.isfinite(error) else None,
        sentence=" ".join(sentence for sentence in sentences if sentence), x=x.tolist(),
        draws=[DrawOut(y=curve(draw), error=miss(draw.error)) for draw in found],
    )  # fmt: skip
