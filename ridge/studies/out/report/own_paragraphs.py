"""Paragraphs of one's own: a little of CommonMark (spec.commonmark.org) and formulas in dollar signs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache

from markdown_it import MarkdownIt
from markdown_it.token import Token
from mdit_py_plugins.dollarmath import dollarmath_plugin

from ridge.exchange.report.content import Block, Formula, Heading, Listing, Paragraph, Run, Style
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.source import Source


@cache
def _reader() -> MarkdownIt:
    """Bold, slanted, lists and formulas; everything else is text."""
    reader = MarkdownIt("zero").enable(["emphasis", "list", "newline", "escape"])
    return reader.use(dollarmath_plugin, allow_space=False, allow_digits=False, double_inline=False)


def own(_: Source, part: ReportPart) -> Iterator[Block]:
    """A part that the user wrote."""
    if part.heading:
        yield Heading(part.heading)
    yield from read_paragraphs(part.text)


def read_paragraphs(text: str) -> Iterator[Block]:
    """``**bold**``, ``*slanted*``, lists with ``-`` or ``1.``, ``$formula$``, and ``$$formula$$`` on a line of its own."""
    tokens = _reader().parse(text)
    place = 0
    while place < len(tokens):
        token = tokens[place]
        if token.type in ("bullet_list_open", "ordered_list_open"):
            end = _end(tokens, place)
            items = [runs for one in tokens[place:end] if one.type == "inline" and (runs := _runs(one.children or []))]
            if items:
                yield Listing(tuple(items), token.type == "ordered_list_open")
            place = end
        elif token.type == "math_block":
            yield Formula(token.content.strip(), token.content.strip())
        elif token.type == "inline" and (runs := _runs(token.children or [])):
            yield Paragraph(runs)
        place += 1


def _end(tokens: Sequence[Token], start: int) -> int:
    """Where a list ends, whatever lists it holds."""
    level = tokens[start].level
    return next(place for place in range(start + 1, len(tokens)) if tokens[place].level == level)


def _runs(children: Sequence[Token]) -> tuple[Run, ...]:
    found: list[Run] = []
    bold = slanted = 0
    for place, child in enumerate(children):
        match child.type:
            case "strong_open" | "strong_close" | "em_open" | "em_close" if _is_arithmetic(children, place):
                found.append(Run(child.markup))
            case "strong_open" | "strong_close":
                bold += child.nesting
            case "em_open" | "em_close":
                slanted += child.nesting
            case "softbreak" | "hardbreak":
                found.append(Run("\n"))
            case "math_inline":
                found.append(Run(child.content.strip(), "formula"))
            case _:
                style: Style = "bold italic" if bold and slanted else "bold" if bold else "italic" if slanted else ""
                found.append(Run(child.content, style))
    return tuple(run for run in found if run.text)


def _is_arithmetic(children: Sequence[Token], place: int) -> bool:
    """Whether stars stand inside words or numbers, as in ``2*x*y`` or ``x**2 + y**2``: then they multiply."""
    what = children[place].type.rsplit("_", 1)[0]
    forward = children[place].nesting
    depth, other = 0, place
    while True:
        depth += children[other].nesting if children[other].type.startswith(what) else 0
        if depth == 0:
            break
        other += forward
    opening, closing = sorted((place, other))
    before = children[opening - 1].content[-1:] if opening else ""
    after = children[closing + 1].content[:1] if closing + 1 < len(children) else ""
    return before.isalnum() or after.isalnum()
