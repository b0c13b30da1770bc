"""``docs/accuracy.md``: sections that each bench writes anew, the others left as they are."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

PAGE = Path(__file__).parent.parent / "docs" / "accuracy.md"
HEAD = "# How exact, how honest and how fast\n\nMeasured by `./run bench accuracy` and `./run bench honesty`, which write this page.\n"


def put(title: str, note: str, rows: Iterable[str]) -> None:
    """A section in its place, or at the end."""
    section = f"## {title}\n\n{note}\n\n" + "\n".join(rows) + "\n"
    text = PAGE.read_text() if PAGE.exists() else HEAD
    sections = re.split(r"(?m)^(?=## )", text)[1:]
    at = next((i for i, one in enumerate(sections) if one.startswith(f"## {title}\n")), len(sections))
    sections[at : at + 1] = [section]
    PAGE.write_text(HEAD + "".join(f"\n{one.rstrip()}\n" for one in sections))
