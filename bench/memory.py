"""The most memory that a fit of 100 000 readings needs, each model in a process of its own."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator

_PROBE = """
import numpy as np
from ridge.core import Readings, fit
from ridge.core.models import *
x = np.linspace(0, 10, 100_000)
y = 30 * np.exp(-0.4 * x) + 7 + np.random.default_rng(1).normal(0, 0.5, 100_000)
def peak():
    return next(int(line.split()[1]) // 1024 for line in open("/proc/self/status") if line.startswith("VmHWM"))
before = peak()
fit(Readings(x, y), {model})
print(before, peak())
"""


def run() -> Iterator[str]:
    yield "| model | MB before the fit | MB at most |"
    yield "| --- | ---: | ---: |"
    for model in (
        "Line()",
        "Polynomial(3)",
        "Exponential(level=True)",
        "Sinusoid()",
        "Gaussian()",
        "Formula('p*exp(-q*x)+r')",
    ):
        output = subprocess.run(
            [sys.executable, "-c", _PROBE.replace("{model}", model)], capture_output=True, text=True, check=True
        ).stdout.split()
        yield f"| {model} | {output[0]} | {output[1]} |"
