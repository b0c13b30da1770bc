"""What a report is made of, whatever file it becomes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal


@dataclass(frozen=True)
class Heading:
    """The heading of a part."""

    text: str


@dataclass(frozen=True)
class Paragraph:
    """Running text, in which line breaks stay. ``kind``: ``lead`` for the question, ``caution`` for what to beware of,
    ``note`` for small print."""

    text: str
    kind: Literal["plain", "lead", "caution", "note"] = "plain"


@dataclass(frozen=True)
class Formula:
    """An equation on a line of its own, as text for those who cannot see it and as LaTeX."""

    text: str
    latex: str


@dataclass(frozen=True)
class Grid:
    """A table. ``numeric``: which columns hold numbers and stand to the right."""

    caption: str
    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    numeric: tuple[bool, ...]


@dataclass(frozen=True)
class Picture:
    """The figure, as SVG for pages and as PNG for text documents, with what it shows in words."""

    image: bytes
    alternative: str
    caption: str
    width: float  # mm


@dataclass(frozen=True)
class Listing:
    """A numbered list."""

    items: tuple[str, ...]


Block = Heading | Paragraph | Formula | Grid | Picture | Listing


@dataclass(frozen=True)
class Report:
    """A report; who hands it in and when are as typed, and may be empty."""

    title: str
    author: str
    date: str
    blocks: tuple[Block, ...]
