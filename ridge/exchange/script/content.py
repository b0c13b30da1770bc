"""What a script is written from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ridge.core.formula.tree import Node
from ridge.core.interpolation import Interpolation
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.exchange.data_files import plain


@dataclass(frozen=True)
class Question:
    """What was asked of a fit: y at each x of ``given``, or x at the y that is the mean of ``given``, read ``repeats`` times."""

    looking: bool
    given: Sequence[float]
    repeats: int = 1


@dataclass(frozen=True)
class Followed:
    """A quantity that follows from a fit: its formula in the names of the parameters, and its unit; of one that needs other results
    too no tree, but its formula as typed."""

    name: str
    formula: Node | None
    unit: str


@dataclass(frozen=True)
class ScriptedFit:
    """One curve of a script: its letter, what it is called, the curve, what it was asked, and what follows from it. ``shared``: what
    all readings share of their uncertainty, which the script does not carry."""

    letter: str
    name: str
    curve: Fit | Interpolation
    questions: Sequence[Question]
    follows: Sequence[Followed] = ()
    shared: Sequence[str] = ()


@dataclass(frozen=True)
class Script:
    """A study as its script tells it. ``aside``: rows (from 0) that are set aside, with their x, y and reason."""

    title: str
    question: str
    level: float
    naming: Naming
    aside: Sequence[tuple[int, float, float, str]]
    fits: Sequence[ScriptedFit]


def numbers(values: Sequence[float]) -> str:
    """An array, in lines that can be read."""
    words = [f"{value!r}," for value in values]
    lines, line = [], ""
    for word in words:
        if line and len(line) + len(word) > 96:
            lines.append(line)
            line = ""
        line = f"{line} {word}".strip()
    lines.append(line)
    if len(lines) == 1:
        return f"np.array([{line.rstrip(',')}])"
    inside = "\n".join(f"    {line}" for line in lines)
    return f"np.array([\n{inside}\n])"


def comment(text: str) -> str:
    """A text as one line of comment, whatever it holds."""
    return "# " + " ".join(plain(text).split())


def quoted(text: str) -> str:
    """A text that stands within quotes and cannot end them, whatever it holds."""
    return " ".join(plain(text).split()).replace("\\", "/").replace('"', "'")
