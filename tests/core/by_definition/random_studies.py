"""Random studies with readings far off or far away, and plain algebra on their designs."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import numpy.typing as npt

from ridge.core.fitting import fit
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

Floats = npt.NDArray[np.float64]


def studies(seed: int, count: int, model: Model, degree: int) -> Iterator[tuple[Fit, Floats]]:
    """Fits to scatter about polynomials, one reading in half of them far off or far away, and the design of each."""
    random = np.random.default_rng(seed)
    for place in range(count):
        n = int(random.integers(degree + 5, 30))
        x = np.sort(random.uniform(0, 10, n))
        if place % 3 == 1:
            x[-1] = 10 + random.uniform(2, 25)
        y = 3 + 2 * x + random.normal(0, 1, n)
        if place % 2:
            y[int(random.integers(n))] += random.normal(0, 7)
        found = fit(Readings(x, y), model)
        yield found, np.vander(x, degree + 1, increasing=True)


def hat(design: Floats) -> Floats:
    return np.asarray(design @ np.linalg.pinv(design))
