"""Uncertainty and units from the readings to what follows, agreement with other values, and where to measure next."""

from ridge.core.carrying.agreement import Agreement, agree
from ridge.core.carrying.chained import Step, carry, simulated
from ridge.core.carrying.constants import CONSTANTS, KnownConstant, expanded, in_quadrature, rectangular
from ridge.core.carrying.following import Follows, follow
from ridge.core.carrying.next_reading import NextReading, where_next
from ridge.core.carrying.propagation import CURVED, Propagated, propagate
from ridge.core.carrying.same_curve import SameCurve, same_curve
from ridge.core.carrying.telling_apart import TellingApart, tell_apart

__all__ = [
    "CONSTANTS", "CURVED", "Agreement", "Follows", "KnownConstant", "NextReading", "Propagated", "SameCurve", "Step", "TellingApart", "agree", "carry",
    "expanded", "follow", "in_quadrature", "propagate", "rectangular", "same_curve", "simulated", "tell_apart", "where_next",
]  # fmt: skip
