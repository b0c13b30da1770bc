"""The certified problems as data.

Source: NIST/ITL Statistical Reference Datasets, linear and nonlinear regression; one file a problem in ``strd/``.
"""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

from ridge.core import Readings

FOLDER = Path(__file__).parent / "strd"


def problems(kind: str) -> list[dict[str, Any]]:
    """All problems of a kind, "linear" or "nonlinear"."""
    return [json.loads(file.read_text()) for file in sorted(FOLDER.glob(f"{kind}-*.json"))]


def readings_of(problem: dict[str, Any]) -> Readings:
    return Readings([float(x) for x in problem["x"]], [float(y) for y in problem["y"]])


def digits(computed: float | None, certified: str | float) -> float:
    """How many digits agree; −log₁₀ of the size itself where the certified value is zero."""
    assert computed is not None
    wanted = float(certified)
    if computed == wanted:
        return 16.0
    return -math.log10(abs(computed - wanted) / abs(wanted)) if wanted else -math.log10(abs(computed))
