"""What the Resample lens says."""

from __future__ import annotations

import math

import numpy as np

from ridge.core.judging.resampling import Draw
from ridge.core.numerals import significant
from ridge.core.readings import Array
from ridge.core.wording.naming import Naming
from ridge.core.wording.resampling import word_failed, word_left_out, word_movement
from ridge.studies.analysis.curves import default_view, finite
from ridge.studies.analysis.fits import fit_all
from ridge.studies.analysis.resampling import Drawing, Resampled, resampled
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.lens_schemas import DrawOut, ResampledOut, ResamplingIn, ResamplingOut

MOST_READINGS = 20_000
MOST_IN_TURN = 60
SAMPLES = 201

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
        view=default_view(table, fitted[0].fit if fitted else None),
    )  # fmt: skip
    if not chosen or chosen[0].fit is None:
        return out.model_copy(update={"remark": NOTHING_FITTED})
    used = chosen[0].fit.readings.used
    why = _refusal(int(used.sum()), wanted)
    if why:
        return out.model_copy(update={"remark": why})
    found = resampled(chosen, Drawing(wanted.kind, wanted.share, wanted.times, wanted.parts, wanted.seed))
    same = [one.one for one in found]
    others = [one.wanted.letter for one in chosen if one not in same]
    x = np.linspace(out.view.x.low, out.view.x.high, SAMPLES)
    return out.model_copy(
        update={
            "left_out": [np.flatnonzero(used & ~draw.included).tolist() for draw in found[0].draws],
            "fits": [_said(one, x, table.naming) for one in found],
            "remark": f"{OTHER_READINGS}: {', '.join(others)}." if others else "",
        }
    )


def _refusal(used: int, wanted: ResamplingIn) -> str:
    if used < 3:
        return TOO_FEW
    if used > MOST_READINGS:
        return TOO_MANY
    return TOO_MANY_IN_TURN if wanted.kind == "in_turn" and used > MOST_IN_TURN else ""


def _said(found: Resampled, x: Array, naming: Naming) -> ResampledOut:
    sentences = (
        word_left_out(found.error, found.own, naming),
        word_movement(found.movement, naming),
        word_failed(found.failed, len(found.draws)),
    )

    def curve(draw: Draw) -> list[float | None]:
        with np.errstate(all="ignore"):
            return [] if draw.fit is None else finite(draw.fit.evaluate(x))

    def miss(value: float | None) -> str:
        return "–" if value is None or not math.isfinite(value) else naming.y_with_unit(significant(value, 3).text)

    one = found.one
    return ResampledOut(
        letter=one.wanted.letter, name=one.wanted.name or name_of(one), parameters=len(found.fit.model.free_names),
        own=miss(found.own), left_out=miss(found.error), error=found.error if math.isfinite(found.error) else None,
        sentence=" ".join(sentence for sentence in sentences if sentence), x=x.tolist(),
        draws=[DrawOut(y=curve(draw), error=miss(draw.error)) for draw in found.draws],
    )  # fmt: skip
