"""What a report is made of, whatever file it becomes."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

Style = Literal["", "bold", "italic", "bold italic", "sub", "formula"]
Kind = Literal["text", "number"]
TEXT: Kind = "text"
NUMBER: Kind = "number"
_LEAD = re.compile(r"[(]?[−-]?[\d\u202f]*")


@dataclass(frozen=True)
class Run:
    """A stretch of text in one style; of a formula, ``text`` is its LaTeX."""

    text: str
    style: Style = ""


Text = str | tuple[Run, ...]
"""Running text: plain, or in stretches of several styles."""


def runs(text: Text) -> tuple[Run, ...]:
    return (Run(text),) if isinstance(text, str) else text


def plain_text(text: Text) -> str:
    """What it says, without its styles."""
    return "".join(run.text for run in runs(text))


def joined(*parts: Text) -> Text:
    """Several stretches as one."""
    return tuple(run for part in parts for run in runs(part) if run.text)


def symbol(text: str) -> Text:
    """A symbol as it is typeset: slanted, with what follows ``_`` lowered."""
    head, _, tail = text.partition("_")
    return (Run(head, "italic"), Run(tail, "sub")) if tail else (Run(head, "italic"),)


@dataclass(frozen=True)
class Heading:
    """The heading of a part."""

    text: str


@dataclass(frozen=True)
class Paragraph:
    """Running text, in which line breaks stay. ``kind``: ``lead`` for the question, ``caution`` for what to beware of,
    ``note`` for small print, ``title`` for what names the equations below it."""

    text: Text
    kind: Literal["plain", "lead", "caution", "note", "title"] = "plain"


@dataclass(frozen=True)
class Formula:
    """An equation on a line of its own, as text for those who cannot see it and as LaTeX."""

    text: str
    latex: str


@dataclass(frozen=True)
class Grid:
    """A table; the cells of its first column head their rows. ``kinds`` of its columns: numbers are lined up at their
    decimal points. ``beside``: of how many equal parts side by side a long one is made."""

    caption: Text
    head: tuple[Text, ...]
    rows: tuple[tuple[Text, ...], ...]
    kinds: tuple[Kind, ...]
    beside: int = 1

    def before_point(self, column: int) -> list[str]:
        """What has to stand unseen before each number of a column, so that their decimal points are under one another."""
        leads = [_LEAD.match(plain_text(row[column])) for row in self.rows]
        found = [lead[0] if lead else "" for lead in leads]
        longest = max(found, key=len, default="")
        return [longest[: len(longest) - len(lead)] for lead in found]


@dataclass(frozen=True)
class Picture:
    """The figure, as SVG for pages and as PNG for text documents, with what it shows in words."""

    image: bytes
    alternative: str
    caption: Text
    width: float  # mm


@dataclass(frozen=True)
class Listing:
    """A list, numbered or not."""

    items: tuple[Text, ...]
    numbered: bool = True


Block = Heading | Paragraph | Formula | Grid | Picture | Listing


@dataclass(frozen=True)
class Report:
    """A report; who hands it in and when are as typed, and may be empty."""

    title: str
    author: str
    date: str
    blocks: tuple[Block, ...]


def with_symbols(blocks: Sequence[Block], symbols: Iterable[str]) -> tuple[Block, ...]:
    """The same with each of the symbols that has something lowered, such as ``T_max``, typeset wherever it is said."""
    lowered = sorted((one for one in set(symbols) if "_" in one.strip("_")), key=len, reverse=True)
    if not lowered:
        return tuple(blocks)
    pattern = re.compile(rf"(?<!\w)({'|'.join(map(re.escape, lowered))})(?!\w)")

    def typeset(text: Text) -> Text:
        if not pattern.search(plain_text(text)):
            return text
        found: list[Run] = []
        for run in runs(text):
            if run.style not in ("", "bold"):
                found.append(run)
                continue
            for place, part in enumerate(pattern.split(run.text)):
                found += runs(symbol(part)) if place % 2 else [Run(part, run.style)]
        return tuple(run for run in found if run.text)

    def inside(block: Block) -> Block:
        match block:
            case Paragraph(text, kind):
                return Paragraph(typeset(text), kind)
            case Picture():
                return replace(block, caption=typeset(block.caption))
            case Grid():
                rows = tuple(tuple(typeset(cell) for cell in row) for row in block.rows)
                return replace(block, caption=typeset(block.caption), head=tuple(map(typeset, block.head)), rows=rows)
        return block

    return tuple(inside(block) for block in blocks)


def numbered(blocks: Sequence[Block]) -> tuple[Block, ...]:
    """The same with figures and tables numbered in their captions."""
    done: list[Block] = []
    figures = tables = 0
    for block in blocks:
        match block:
            case Picture():
                figures += 1
                done.append(
                    Picture(block.image, block.alternative, _called("Figure", figures, block.caption), block.width)
                )
            case Grid():
                tables += 1
                caption = _called("Table", tables, block.caption)
                done.append(Grid(caption, block.head, block.rows, block.kinds, block.beside))
            case _:
                done.append(block)
    return tuple(done)


def _called(word: str, number: int, caption: Text) -> Text:
    return joined((Run(f"{word}\u00a0{number}. ", "bold"),), caption)
