"""One threshold for every test that Ridge words."""

from __future__ import annotations

SIGNIFICANT = 0.05
"""p below which a test counts as evidence (common practice)."""
RESIDUAL_CHECKS = 8
"""Residuals are checked in eight ways: signs, neighbours, curvature, waves, spread, drift, groups and shape."""
WAVE_CHECK = 0.02
"""p below which a wave counts as evidence: more than an equal share, because the search over all periods has the least power
with few readings."""
CHECK = (SIGNIFICANT - WAVE_CHECK) / (RESIDUAL_CHECKS - 1)
"""p below which each of the other checks counts as evidence, so that all eight raise a false alarm in at most one of 20 fits
(Bonferroni's inequality with unequal shares)."""
ALARM = 0.03
"""Share of studies in which a caution on a single reading may be raised although nothing is wrong."""
