"""One threshold for every test that Ridge words."""

from __future__ import annotations

SIGNIFICANT = 0.05
"""p below which a test counts as evidence (common practice)."""
RESIDUAL_CHECKS = 8
"""Residuals are checked in eight ways: signs, neighbours, curvature, waves, spread, drift, groups and shape."""
CHECK = SIGNIFICANT / RESIDUAL_CHECKS
"""p below which one of these checks counts as evidence, so that all of them together sound a false alarm in at most one fit of twenty
(Bonferroni's inequality)."""
ALARM = 0.03
"""Share of studies in which a caution on a single reading may be raised although nothing is wrong."""
