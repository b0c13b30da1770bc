"""How many examples a property is tried on, and which: ``./run test`` tries the same every time, ``./run fuzz`` new ones.

A run that finds something at random belongs to whoever is there to look at it; one that judges a change must judge the change.
"""

from __future__ import annotations

import os
from typing import Any

from hypothesis import settings

TIMES = int(os.environ.get("RIDGE_FUZZ", "1"))


def examples(count: int, **more: Any) -> settings:
    """``count`` examples, ``RIDGE_FUZZ`` times as many where that is set, and then others at each run."""
    return settings(max_examples=count * TIMES, derandomize=TIMES == 1, deadline=None, **more)
