"""A report as one HTML file that needs nothing else: no script, no network; and as the HTML that a PDF is made from."""

from __future__ import annotations

import re
from base64 import b64encode
from collections.abc import Sequence
from html import escape as escape_html
from pathlib import Path

from ridge.exchange.data_files import plain
from ridge.exchange.faces import Face, parts_for
from ridge.exchange.figure.paper import INK
from ridge.exchange.report.content import (
    Block,
    Formula,
    Grid,
    Heading,
    Listing,
    Paragraph,
    Picture,
    Report,
    Run,
    Text,
    plain_text,
    runs,
)
from ridge.exchange.report.formulas import to_mathml
from ridge.exchange.typeset import as_svg, draw_equation

STYLE = Path(__file__).with_name("report.css")
LANGUAGE = "en"
SHORT = 18
"""Rows up to which a table stays on one page."""
_PAIRS = re.compile(r" ± |\bp [=<] ")
MOST_BESIDE = 40
"""Rows of each part of a long table."""
_TAGS = {"bold": ("<strong>", "</strong>"), "italic": ("<i>", "</i>"), "sub": ("<sub>", "</sub>")}
_TAGS["bold italic"] = ("<strong><i>", "</i></strong>")


def write_html(report: Report) -> str:
    """The report as HTML5 with the letters of its faces inside."""
    body = article(report, drawn=False)
    return _page(report, body, _faces_inside(body))


def write_for_pdf(report: Report, shown: Sequence[Face]) -> str:
    """The same with equations as drawings, since what lays out the pages does not typeset MathML, and with the faces by their
    addresses."""
    sources = "".join(_face(face, f'url({face.path.as_uri()}) format("truetype")') for face in shown)
    return _page(report, article(report, drawn=True), sources)


def _page(report: Report, body: str, sources: str) -> str:
    author = f'<meta name="author" content="{escape(report.author)}">' if report.author else ""
    return (
        f'<!doctype html>\n<html lang="{LANGUAGE}"><head><meta charset="utf-8"><title>{escape(report.title)}</title>{author}'
        '<meta name="viewport" content="width=device-width, initial-scale=1"><meta name="generator" content="Ridge">'
        f"<style>{sources}{STYLE.read_text()}</style></head>\n<body><main>\n{body}\n</main></body></html>\n"
    )


def article(report: Report, *, drawn: bool) -> str:
    """Head and blocks. ``drawn``: equations as drawings instead of MathML."""
    # Each in a direction of its own: a name from right to left leaves the date where it is.
    byline = " · ".join(f"<bdi>{escape(part)}</bdi>" for part in (report.author, report.date) if part)
    head = f"<h1 dir=auto>{escape(report.title)}</h1>" + (f"<p class=byline>{byline}</p>" if byline else "")
    blocks = "\n".join(_block(block, drawn) for block in report.blocks)
    return f"<header>{head}</header>\n{blocks}"


def _faces_inside(body: str) -> str:
    """The letters that the page needs, as fonts inside the file."""
    return "".join(
        _face(part.face, f'url(data:font/woff2;base64,{b64encode(part.font).decode()}) format("woff2")', part.range)
        for part in parts_for(body)
    )


def _face(face: Face, source: str, letters: str = "") -> str:
    span = f";unicode-range:{letters}" if letters else ""
    style = f'font-family:"{face.family}";font-style:{face.style};font-weight:{face.weight};src:{source}{span}'
    return f"@font-face{{{style}}}"


def _block(block: Block, drawn: bool) -> str:
    match block:
        case Heading(text):
            return f"<h2 dir=auto>{escape(text)}</h2>"
        case Paragraph(text, kind):
            role = ' role="note"' if kind == "caution" else ""
            return f'<p class="{kind}"{role} dir=auto>{_text(text, drawn)}</p>'
        case Formula():
            return _formula(block, drawn)
        case Grid():
            return _grid(block, drawn)
        case Picture():
            source = f"data:image/svg+xml;base64,{b64encode(block.image).decode()}"
            return (
                f'<figure><img src="{source}" alt="{escape(block.alternative)}" style="width:{block.width:g}mm">'
                f"<figcaption dir=auto>{_text(block.caption, drawn)}</figcaption></figure>"
            )
        case Listing(items, numbered):
            tag = "ol" if numbered else "ul"
            return f"<{tag}>{''.join(f'<li dir=auto>{_text(item, drawn)}</li>' for item in items)}</{tag}>"


def _text(text: Text, drawn: bool) -> str:
    return "".join(_run(run, drawn) for run in runs(text))


def _run(run: Run, drawn: bool) -> str:
    if run.style == "formula":
        return _inline_formula(run.text, drawn)
    before, after = _TAGS.get(run.style, ("", ""))
    return f"{before}{'<br>'.join(escape(_unbroken(line)) for line in run.text.split(chr(10)))}{after}"


def _unbroken(text: str) -> str:
    """With a value and its uncertainty, and *p* and its value, on one line."""
    return _PAIRS.sub(lambda match: match[0].replace(" ", "\u00a0"), text)


def _inline_formula(latex: str, drawn: bool) -> str:
    if not drawn:
        return to_mathml(latex, display="inline")
    found = draw_equation(latex, 10.5)
    if found is None:
        return f"<i>{escape(latex)}</i>"
    source = b64encode(as_svg(found, INK)).decode()
    down = found.descent + 1
    return f'<img class=inline style="vertical-align:-{down:.2f}pt" src="data:image/svg+xml;base64,{source}" alt="{escape(latex)}">'


def _formula(formula: Formula, drawn: bool) -> str:
    if not drawn:
        # It may be wider than the page: then it is scrolled, also with the keyboard.
        return (
            f'<div class="formula" role="group" tabindex="0" aria-label="{escape(formula.text)}">'
            f"{to_mathml(formula.latex)}</div>"
        )
    found = draw_equation(formula.latex)
    if found is None:
        return f'<p class="formula"><i>{escape(formula.text)}</i></p>'
    source = f"data:image/svg+xml;base64,{b64encode(as_svg(found, INK)).decode()}"
    return f'<div class="formula"><img src="{source}" alt="{escape(formula.text)}"></div>'


def _grid(grid: Grid, drawn: bool) -> str:
    """A table; a long one in parts side by side, each with the head."""
    lines = _rows(grid, drawn)
    head = "".join(
        f'<th scope="col" class="{kind}" dir=auto>{_text(cell, drawn)}</th>'
        for kind, cell in zip(grid.kinds, grid.head, strict=True)
    )
    caption = f"<caption dir=auto>{_text(grid.caption, drawn)}</caption>"
    name = plain_text(grid.caption).partition(". ")
    called = f"{name[0]}. {name[2].partition('.')[0]}"
    if grid.beside == 1:
        return _table(called, caption, head, lines)
    # As high as a page at most, so that each part stays whole.
    per_part = min(-(-len(lines) // grid.beside), MOST_BESIDE)
    parts = [lines[start : start + per_part] for start in range(0, len(lines), per_part)]
    tables = "".join(
        f'<div class="part">{_table(f"{called}, part {place}", caption if place == 1 else "", head, part)}</div>'
        for place, part in enumerate(parts, 1)
    )
    return f'<div class="beside in{grid.beside}">{tables}</div>'


def _table(name: str, caption: str, head: str, lines: Sequence[str]) -> str:
    """A table in a box that scrolls where it is too wide, also with the keyboard."""
    whole = ' class="whole"' if len(lines) <= SHORT else ""
    return (
        f'<div class="table" role="group" tabindex="0" aria-label="{escape(name)}"><table{whole}>{caption}'
        f"<thead><tr>{head}</tr></thead><tbody>{''.join(lines)}</tbody></table></div>"
    )


def _rows(grid: Grid, drawn: bool) -> list[str]:
    # Digits that nobody sees, so that decimal points stand under one another in every face.
    unseen = [
        grid.before_point(column) if kind == "number" else [""] * len(grid.rows)
        for column, kind in enumerate(grid.kinds)
    ]
    return [
        "<tr>"
        + "".join(
            _cell(kind, cell, unseen[column][place], column == 0, drawn)
            for column, (kind, cell) in enumerate(zip(grid.kinds, row, strict=True))
        )
        + "</tr>"
        for place, row in enumerate(grid.rows)
    ]


def _cell(kind: str, cell: Text, unseen: str, heads_row: bool, drawn: bool) -> str:
    # What is short stays on one line.
    short = " short" if len(plain_text(cell)) <= 24 else ""
    lead = f'<span class="unseen" aria-hidden="true">{escape(unseen)}</span>' if unseen and plain_text(cell) else ""
    start, end = ('<th scope="row"', "</th>") if heads_row else ("<td", "</td>")
    return f'{start} class="{kind}{short}" dir=auto>{lead}{_text(cell, drawn)}{end}'


def escape(text: str) -> str:
    """Text that means nothing but itself."""
    return escape_html(plain(text))
