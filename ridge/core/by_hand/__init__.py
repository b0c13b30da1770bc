"""Curves whose numbers are given rather than fitted, and what it takes to set them by hand."""

from ridge.core.by_hand.given import with_values
from ridge.core.by_hand.grips import Place, move, places
from ridge.core.by_hand.handles import Handle, first_values, handles

__all__ = ["Handle", "Place", "first_values", "handles", "move", "places", "with_values"]
