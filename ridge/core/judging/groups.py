"""Whether groups of readings, such as series, lie at different heights about one curve."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.special import fdtrc

from ridge.core.judging.clean import Scatter
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

DEPENDENT = 1e-9
"""Share of its length that a group's own shift must keep beside the parameters of the model to be told from them."""


@dataclass(frozen=True)
class GroupsApart:
    """``p``: chance of groups so far apart if one curve held for all; ``offsets``: mean residual of each group, in units of y, by
    its number."""

    p: float
    offsets: dict[int, float]


def groups_apart(fit: Fit, groups: npt.NDArray[np.integer]) -> GroupsApart | None:
    """The F-test for a shift of each group besides the parameters of the model (Draper and Smith, 3rd ed., chapter 14: dummy
    variables), exact for linear models, by the tangent plane for others. ``groups``: the number of each row's group, shape
    (rows,), -1 for none. None where there is one group, or no scatter to hold it against.

    >>> import numpy as np
    >>> from ridge.core import Readings, fit
    >>> from ridge.core.judging.groups import groups_apart
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 1, 2, 3, 4], [1.1, 2.0, 2.9, 4.1, 2.0, 3.1, 4.0, 4.9]), Line())
    >>> groups_apart(line, np.repeat([0, 1], 4)).p < 0.001
    True
    """
    if fit.log_line is not None:
        return groups_apart(fit.log_line, groups)
    used, statistics = fit.readings.used, fit.statistics
    own = groups[used]
    numbers = np.unique(own[own >= 0])
    if len(numbers) < 2 or statistics.exact or statistics.degrees_of_freedom < 2:
        return None
    root = np.sqrt(fit.readings.used_weights)
    at = [fit.model.parameter_names.index(name) for name in fit.model.free_names]
    with np.errstate(all="ignore"):
        directions = fit.model.gradient(fit.readings.x[used], fit.values)[:, at] * root[:, None]
    if not np.isfinite(directions).all():
        return None
    shifts = (own[:, None] == np.unique(own)[1:]) * root[:, None]  # rows of no group may have a height of their own
    left = Scatter(directions).left_of(shifts.T).T
    basis, triangle = np.linalg.qr(left)
    basis = basis[:, np.abs(np.diag(triangle)) > DEPENDENT * np.sqrt(np.sum(shifts * shifts, axis=0))]
    residuals = fit.residuals[used] * root
    of_groups = basis.shape[1]
    degrees = statistics.degrees_of_freedom - of_groups
    along = basis.T @ residuals
    gained, rss = float(along @ along), float(residuals @ residuals)
    if not of_groups or degrees < 1 or not rss > gained:
        return None
    offsets = {int(one): _mean(fit, own == one) for one in numbers}
    return GroupsApart(float(fdtrc(of_groups, degrees, gained / of_groups / ((rss - gained) / degrees))), offsets)


def _mean(fit: Fit, of_group: Array) -> float:
    used = fit.readings.used
    return float(np.average(fit.residuals[used][of_group], weights=fit.readings.used_weights[of_group]))
