"""A Python script that fits again what a study holds, step by step, with NumPy and SciPy alone."""

from __future__ import annotations

from ridge.core.results.fit import Fit
from ridge.exchange.script.between import write_interpolation
from ridge.exchange.script.content import Followed, Question, Script, ScriptedFit, comment, quoted
from ridge.exchange.script.fitted import write_fit
from ridge.exchange.script.helpers import HEAD

__all__ = ["Followed", "Question", "Script", "ScriptedFit", "write_script"]


def write_script(script: Script) -> str:
    """The script. What it cannot do again, such as fits with uncertainties of x, it names in a comment."""
    head = [
        f'"""{quoted(script.title)}',
        "",
        *([quoted(script.question), ""] if script.question else []),
        "Written by Ridge. It needs NumPy and SciPy only. For each fit: the readings, the model, the fit by least squares,",
        "how well it holds, and the answers that were kept, with their limits by standard errors.",
        '"""',
    ]
    parts = ["\n".join(head), HEAD.format(level=script.level)]
    written: list[ScriptedFit] = []
    for one in script.fits:
        if isinstance(one.curve, Fit):
            parts.append(write_fit(script, one, written))
            written.append(one)
        else:
            parts.append(write_interpolation(script, one))
    if not script.fits:
        parts.append(comment("There is no fit in this study yet."))
    return "\n".join(parts)
