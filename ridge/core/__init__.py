"""Ridge's core: readings in; fits, judgements and predictions out. No interface, files or network.

>>> from ridge.core import Readings, fit
>>> from ridge.core.models import Line
>>> f = fit(Readings([1, 2, 3, 4], [2.1, 3.9, 6.2, 7.8]), Line())
>>> round(f.parameters["slope"].value, 3)
1.94
"""

from ridge.core.face import Fit, Interpolation, fit, interpolate, with_values
from ridge.core.readings import Readings
from ridge.core.results.parameter import Parameter

__all__ = ["Fit", "Interpolation", "Parameter", "Readings", "fit", "interpolate", "with_values"]
