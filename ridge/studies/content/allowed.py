"""How much a study may hold."""

from __future__ import annotations

LIMITS = {
    "rows": 200_000,
    "columns": 12,
    "cell": 200,
    "answers": 200,
    "fits": 6,
    "quantities": 12,
    "known": 8,
    "paragraphs": 40,
    "measured": 40,
}
FORMULA_TYPED = 4000
"""Characters of a formula that are kept as typed; one longer than formulas may be is told so, not cut."""
