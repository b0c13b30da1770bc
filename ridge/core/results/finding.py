"""What was found about a fit or an interpolation, before and after it is put in words."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Finding:
    """Something found, not yet in words. ``rows`` are 0-based; ``words`` hold names and ``curve``, what the fit is called."""

    code: str
    rows: tuple[int, ...] = ()
    facts: Mapping[str, float] = field(default_factory=dict)
    words: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Caution:
    """A finding in words, with what to do about it. ``rows`` are 0-based rows it names."""

    code: str
    message: str
    remedy: str
    rows: tuple[int, ...] = ()
