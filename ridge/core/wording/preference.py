"""Which of several fits to the same readings is to be preferred, and why, in a sentence or two."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.judging.misses import typical_miss
from ridge.core.judging.ranking import Ranked, order_models
from ridge.core.numerals import join, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming


def word_preference(fits: Sequence[tuple[str, Fit]], naming: Naming) -> str:
    """Of fits, each with what it is called, the one to be preferred by AICc, of equals the simpler; empty where there is
    nothing to choose.

    AICc compares fits to the same readings by least squares in y only (Burnham and Anderson 2002, section 2.4).
    """
    fitted = [(name, fit) for name, fit in fits if fit.least_squares_in != "given"]
    if len(fitted) < 2:
        return ""
    names = [name for name, _ in fitted]
    first = fitted[0][1]
    if not all(np.array_equal(fit.readings.used, first.readings.used) for _, fit in fitted):
        return f"{join(names)} are fitted to different readings, so nothing here chooses between them."
    if not all(fit.least_squares_in == "y" for _, fit in fitted):
        misses = [f"{name} typically misses a reading by {_miss(fit, naming)}" for name, fit in fitted]
        return f"They are not fitted in the same way, so AICc does not compare them. In {naming.y}, {join(misses)}."
    called = {id(fit): name for name, fit in fitted}
    ranked = order_models([(fit.model, fit, "") for _, fit in fitted])
    best, next_best = ranked[0], ranked[1]
    assert best.fit is not None and next_best.fit is not None
    if best.fit.statistics.exact:
        return f"{called[id(best.fit)]} goes through every reading exactly."
    if best.difference is None or next_best.difference is None:
        return f"There are too few readings to choose between {join(names)}."
    return f"{_better(best, next_best, called, naming)}{_doubt(best, called)}"


def _better(best: Ranked, other: Ranked, called: dict[int, str], naming: Naming) -> str:
    assert (
        best.fit is not None and other.fit is not None and best.difference is not None and other.difference is not None
    )
    name, beside = called[id(best.fit)], called[id(other.fit)]
    if best.fit.model.flat:
        return f"There is no significant evidence that {beside} is better than {name}."
    if other.fit.model.flat:
        return f"{name} is significantly better than {beside}."
    apart = significant(abs(other.difference - best.difference), 2).text
    if best.close and other.close:
        equal = f"{name} and {beside} fit about equally well (AICc differs by {apart}; below 2 says little)"
        if len(best.fit.model.free_names) < len(other.fit.model.free_names):
            return f"{equal}; {name} has fewer parameters and is to be preferred."
        return f"{equal}: these readings do not choose between them."
    return (
        f"{name} is to be preferred to {beside}: it typically misses a reading by {_miss(best.fit, naming)}, not by "
        f"{_miss(other.fit, naming)}, and its AICc, which charges for each parameter, is lower by {apart}."
    )


def _doubt(best: Ranked, called: dict[int, str]) -> str:
    if not best.patterned or best.fit is None:
        return ""
    return f" The residuals of {called[id(best.fit)]} show a pattern all the same: a better model may be missing."


def _miss(fit: Fit, naming: Naming) -> str:
    return naming.y_with_unit(significant(typical_miss(fit) or 0.0, 2).text)
