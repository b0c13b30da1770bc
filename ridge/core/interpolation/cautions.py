"""What to know about a curve that goes through every reading."""

from __future__ import annotations

import numpy as np

from ridge.core.interpolation.base import Interpolation
from ridge.core.results.finding import Finding

MANY = 15
"""Nodes from which on one polynomial is cautioned about whatever it does."""


def findings_of(curve: Interpolation) -> list[Finding]:
    """Findings on an interpolation, the gravest first."""
    found = []
    nodes = len(curve.x)
    if curve.kind == "polynomial" and nodes >= 8:
        steps = np.diff(curve.x)
        even = float(np.ptp(steps)) < 0.2 * float(steps.mean())
        if nodes >= MANY or even:
            found.append(Finding("many-nodes-one-polynomial", facts={"nodes": nodes, "even": float(even)}))
    between = int(np.clip(4000 // nodes, 3, 21))
    dense = (curve.x[:-1, None] + np.diff(curve.x)[:, None] * np.linspace(0, 1, between)).ravel()
    with np.errstate(all="ignore"):
        values = curve.evaluate(dense)
    with np.errstate(all="ignore"):
        outside = max(float(np.nanmax(values) - curve.y.max()), float(curve.y.min() - np.nanmin(values)))
        spread = float(np.ptp(curve.y))
    if spread > 0 and outside > 0.25 * spread:
        found.append(Finding("swings", facts={"outside": outside}))
    if curve.averaged:
        found.append(Finding("repeats-averaged"))
    found.append(Finding("no-residuals"))
    return found
