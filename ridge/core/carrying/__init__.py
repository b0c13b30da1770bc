"""Uncertainty and units from the readings to what follows, agreement with other values, and where to measure next."""

from ridge.core.carrying.agreement import Agreement, agree
from ridge.core.carrying.chained import Step, carry, simulated
from ridge.core.carrying.constants import CONSTANTS, KnownConstant, expanded, in_quadrature, rectangular
from ridge.core.carrying.following import Follows, Linked, follow
from ridge.core.carrying.next_reading import NextReading, where_next
from ridge.core.carrying.propagation import CURVED, Propagated, propagate
from ridge.core.carrying.same_curve import SameCurve, same_curve
from ridge.core.carrying.shared_answers import (
    place_with_shared,
    prediction_with_shared,
    quantity_with_shared,
    solution_with_shared,
)
from ridge.core.carrying.shared_errors import Moved, SharedError, intervals_with_shared, moved_by, with_shared
from ridge.core.carrying.telling_apart import TellingApart, tell_apart

__all__ = [
    "CONSTANTS", "CURVED", "Agreement", "Follows", "KnownConstant", "Linked", "Moved", "NextReading", "Propagated", "SameCurve", "SharedError", "Step",
    "TellingApart", "agree", "carry", "expanded", "follow", "in_quadrature", "intervals_with_shared", "moved_by", "place_with_shared",
    "prediction_with_shared", "propagate", "quantity_with_shared", "rectangular", "same_curve", "simulated", "solution_with_shared", "tell_apart",
    "where_next", "with_shared",
]  # fmt: skip
