"""A report as one HTML file that needs nothing else: no script, no network; and as the HTML that a PDF is made from."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Sequence
from dataclasses import dataclass
from html import escape as escape_html
from pathlib import Path

from ridge.exchange.data_files import plain
from ridge.exchange.report.content import Block, Formula, Grid, Heading, Listing, Paragraph, Picture, Report
from ridge.exchange.report.formulas import to_drawing, to_mathml

STYLE = Path(__file__).with_name("report.css")


@dataclass(frozen=True)
class Face:
    """The file of a font (WOFF2) and what it is called."""

    family: str
    style: str
    path: Path


def write_html(report: Report, faces: Sequence[Face], *, for_pdf: bool = False) -> str:
    """The report as HTML5. ``faces`` are put into the file.

    ``for_pdf``: equations as drawings, since what lays out the pages does not typeset MathML, and the fonts by their
    addresses, which is faster.
    """
    body = "\n".join(_block(block, for_pdf) for block in report.blocks)
    byline = " · ".join(part for part in (report.author, report.date) if part)
    head = f"<h1 dir=auto>{escape(report.title)}</h1>" + (
        f"<p class=byline dir=auto>{escape(byline)}</p>" if byline else ""
    )
    author = f'<meta name="author" content="{escape(report.author)}">' if report.author else ""
    return (
        f'<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>{escape(report.title)}</title>{author}'
        '<meta name="viewport" content="width=device-width, initial-scale=1"><meta name="generator" content="Ridge">'
        f"<style>{_faces(faces, for_pdf)}{STYLE.read_text()}</style></head>\n<body><article>\n<header>{head}</header>\n{body}\n</article></body></html>\n"
    )


def _faces(faces: Sequence[Face], by_address: bool) -> str:
    def source(path: Path) -> str:
        return path.as_uri() if by_address else f"data:font/woff2;base64,{b64encode(path.read_bytes()).decode()}"

    return "".join(
        f'@font-face{{font-family:"{face.family}";font-style:{face.style};font-weight:200 900;'
        f'src:url({source(face.path)}) format("woff2")}}'
        for face in faces
    )


def _block(block: Block, drawn_formulas: bool) -> str:
    match block:
        case Heading(text):
            return f"<h2>{escape(text)}</h2>"
        case Paragraph(text, kind):
            lines = "<br>".join(escape(line) for line in text.split("\n"))
            return f'<p class="{kind}" dir=auto>{lines}</p>'
        case Formula():
            return _formula(block, drawn_formulas)
        case Grid():
            return _grid(block)
        case Picture():
            source = f"data:image/svg+xml;base64,{b64encode(block.image).decode()}"
            return (
                f'<figure><img src="{source}" alt="{escape(block.alternative)}" style="width:{block.width:g}mm">'
                f"<figcaption dir=auto>{escape(block.caption)}</figcaption></figure>"
            )
        case Listing(items):
            return f"<ol>{''.join(f'<li>{escape(item)}</li>' for item in items)}</ol>"


def _formula(formula: Formula, drawn: bool) -> str:
    if not drawn:
        return f'<div class="formula" role="group" aria-label="{escape(formula.text)}">{to_mathml(formula.latex)}</div>'
    drawing = to_drawing(formula.latex)
    if drawing is None:
        return f'<div class="formula"><i>{escape(formula.text)}</i></div>'
    source = f"data:image/svg+xml;base64,{b64encode(drawing).decode()}"
    return f'<div class="formula"><img src="{source}" alt="{escape(formula.text)}"></div>'


def _grid(grid: Grid) -> str:
    kinds = ["num" if numeric else "txt" for numeric in grid.numeric]
    head = "".join(
        f'<th scope=col class="{kind}">{escape(cell)}</th>' for kind, cell in zip(kinds, grid.head, strict=True)
    )
    rows = "".join(
        "<tr>" + "".join(_cell(kind, cell) for kind, cell in zip(kinds, row, strict=True)) + "</tr>"
        for row in grid.rows
    )
    caption = f"<caption>{escape(grid.caption)}</caption>" if grid.caption else ""
    return f"<table>{caption}<thead><tr>{head}</tr></thead><tbody>{rows}</tbody></table>"


def _cell(kind: str, text: str) -> str:
    # What is short stays on one line.
    short = " short" if len(text) <= 24 else ""
    return f'<td class="{kind}{short}" dir=auto>{escape(text)}</td>'


def escape(text: str) -> str:
    """Text that means nothing but itself."""
    return escape_html(plain(text))
