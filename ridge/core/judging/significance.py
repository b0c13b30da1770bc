"""One threshold for every test that Ridge words."""

from __future__ import annotations

SIGNIFICANT = 0.05
"""p below which a test counts as evidence (common practice)."""
RESIDUAL_CHECKS = 5
"""Residuals are checked in five ways: signs, runs, curvature, spread and shape."""
CHECK = SIGNIFICANT / RESIDUAL_CHECKS
"""p below which one of these checks counts as evidence, so that all five together sound a false alarm in one fit of twenty
(Bonferroni's inequality)."""
