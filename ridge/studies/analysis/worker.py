"""Own formulas are fitted in processes of their own, so that a heavy one holds up nobody else and can be stopped."""

from __future__ import annotations

import resource
from collections.abc import Mapping
from concurrent.futures import TimeoutError as TookTooLong

from pebble import ProcessExpired

from ridge.core.decimal_sign import Sign, decimal_sign, written_with
from ridge.core.errors import NoFit
from ridge.core.fitting import fit
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.studies.one_at_a_time import waiting
from ridge.studies.processes import Broken, Processes, ran_out, schedule

PROCESSES = 2
GUARD = 30.0
"""Seconds of processor time after which a fit is ended. Its effort ends it long before, in work that is the same on every machine;
this is for what the effort does not see."""
MEMORY = 4 << 30
"""Bytes that one process may hold."""

_here = False


def fit_here() -> None:
    """From now on this process fits by itself: it holds up nobody, and can be stopped as it is."""
    global _here
    _here = True


class Interrupted(NoFit):
    """The process that fitted came to an end before the fit did. It need not happen again."""


def fit_in_worker(
    readings: Readings,
    model: Model,
    values: Mapping[str, float],
    bounds: Mapping[str, tuple[float, float]],
    method: str,
) -> Fit:
    """``ridge.core.fit`` in another process. Raises what it raises.

    A process that dies concerns this request alone: the work is done once more in a new one, and only where that dies too,
    or takes longer than the guard allows, Interrupted is raised.
    """
    given = (readings, model, dict(values), dict(bounds), method, decimal_sign())
    if _here:
        return _fit(*given)
    for _ in range(2):
        with waiting():
            pool = _processes.running()
            try:
                return schedule(pool, GUARD, _fit, *given).result()
            except TookTooLong:
                raise Interrupted("The server is busy, so the fit was stopped. Try again in a minute.") from None
            except ProcessExpired as expired:
                if ran_out(expired):
                    raise Interrupted(
                        f"The fit took more than {GUARD:.0f} seconds of processor time and was stopped. Make the formula "
                        "shorter, or enter starting values."
                    ) from None
            except Broken:
                _processes.replace(pool)
    raise Interrupted("The fit was stopped, since it needed more memory than there is. Make the formula shorter.")


def _fit(
    readings: Readings,
    model: Model,
    values: dict[str, float],
    bounds: dict[str, tuple[float, float]],
    method: str,
    sign: Sign,
) -> Fit:
    start = {name: value for name, value in values.items() if name in model.free_names}
    with written_with(sign):  # refusals hold numbers
        found = fit(readings, model, start=start, bounds=bounds, least_squares_in=method)
    _ = found.statistics.f_p_value  # worked out here, where it holds up nobody
    return found


def _bound_memory() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))


_processes = Processes(PROCESSES, _bound_memory, (), ["ridge.studies.analysis.worker"])
