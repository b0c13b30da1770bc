"""What the heading of a column says: its name, its symbol, its unit."""

from __future__ import annotations

import re

_UNIT_IN_BRACKETS = re.compile(r"^(.*?)\s*[(\[]([^()\[\]]*)[)\]]\s*$")
_ONE_LETTER = re.compile(r"[^\W\d_](?:_\w{1,8}|\d{1,2}|[\u2080-\u2089]{1,2})?")


def read_heading(text: str) -> tuple[str, str, str]:
    """Name, symbol and unit of ``time (s)``, ``t / s``, ``t [s]`` or ``time t / s``; empty where there is none."""
    text = text.strip().strip('"')
    unit = ""
    match = _UNIT_IN_BRACKETS.match(text)
    if match:
        # ``v / (m/s)`` is a quantity over its unit, as ``v (m/s)`` is one with it.
        text, unit = match.group(1).removesuffix("/"), match.group(2).strip()
    else:
        before, slash, after = text.rpartition(" / ")
        if not slash:
            before, slash, after = text.rpartition("/")
        if slash and before.strip():
            text, unit = before, after.strip()
    words = text.strip().rstrip(",").split()
    if words and _ONE_LETTER.fullmatch(words[-1]):
        return " ".join(words[:-1]).rstrip(","), words[-1], unit
    return " ".join(words), "", unit
