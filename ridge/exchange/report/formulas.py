"""An equation in LaTeX as MathML and as the equation of a text document (OMML)."""

from __future__ import annotations

from html import escape
from typing import Literal
from xml.etree import ElementTree

from latex2mathml import exceptions
from latex2mathml.converter import convert

from ridge.exchange.data_files import plain

MATH = "{http://www.w3.org/1998/Math/MathML}"
OMML = "http://schemas.openxmlformats.org/officeDocument/2006/math"
_M = f"{{{OMML}}}"
_NO_LATEX: tuple[type[Exception], ...] = (
    *(one for one in vars(exceptions).values() if isinstance(one, type) and issubclass(one, Exception)),
    ValueError, IndexError, KeyError, RecursionError,
)  # fmt: skip
"""What its reader raises: it has no one kind of error for it."""
_GROUPS = ("mrow", "mstyle", "math", "semantics", "mpadded")


def to_mathml(latex: str, display: Literal["block", "inline"] = "block") -> str:
    """The equation as MathML (W3C); of what is no LaTeX, its text."""
    try:
        return str(convert(latex, display=display))
    except _NO_LATEX:
        return f'<math display="{display}"><mtext>{escape(plain(latex))}</mtext></math>'


def to_omml(latex: str) -> ElementTree.Element:
    """The equation as Office Math (ISO/IEC 29500-1, part 22), made from its MathML."""
    whole = ElementTree.Element(f"{_M}oMath")
    _append_all(whole, list(ElementTree.fromstring(to_mathml(latex))))
    return whole


def _append_all(into: ElementTree.Element, parts: list[ElementTree.Element]) -> None:
    place = 0
    while place < len(parts):
        part, after = parts[place], parts[place + 1] if place + 1 < len(parts) else None
        if _is(part, "mo") and (part.text or "") == "{" and after is not None and _is(after, "mtable"):
            _cases(into, after)
            place += 2
            continue
        if _is(part, "mo") and (part.text or "") == "[" and after is not None and _is(after, "mtable"):
            _append_all(_fenced(into, "[", "]"), [after])
            place += 3  # the closing bracket too
            continue
        _append(into, part)
        place += 1


def _is(part: ElementTree.Element, name: str) -> bool:
    return part.tag == MATH + name


def _cases(into: ElementTree.Element, table: ElementTree.Element) -> None:
    """Rows behind one tall brace that nothing closes."""
    _rows_of(_fenced(into, "{", ""), table, "left")


def _fenced(into: ElementTree.Element, begin: str, end: str) -> ElementTree.Element:
    """What is put in stands between two fences as high as it is."""
    fence = ElementTree.SubElement(into, f"{_M}d")
    properties = ElementTree.SubElement(fence, f"{_M}dPr")
    for name, letter in (("begChr", begin), ("endChr", end)):
        ElementTree.SubElement(properties, f"{_M}{name}", {f"{_M}val": letter})
    return ElementTree.SubElement(fence, f"{_M}e")


def _rows_of(into: ElementTree.Element, table: ElementTree.Element, side: str) -> None:
    """A table as a matrix, its columns flush to one side."""
    matrix = ElementTree.SubElement(into, f"{_M}m")
    columns = ElementTree.SubElement(ElementTree.SubElement(matrix, f"{_M}mPr"), f"{_M}mcs")
    column = ElementTree.SubElement(ElementTree.SubElement(columns, f"{_M}mc"), f"{_M}mcPr")
    widest = str(max((len(row) for row in table), default=1))
    ElementTree.SubElement(column, f"{_M}count", {f"{_M}val": widest})
    ElementTree.SubElement(column, f"{_M}mcJc", {f"{_M}val": side})
    for row in table:
        line = ElementTree.SubElement(matrix, f"{_M}mr")
        for cell in row:
            _append_all(ElementTree.SubElement(line, f"{_M}e"), list(cell))


def _append(into: ElementTree.Element, part: ElementTree.Element) -> None:
    name = part.tag.removeprefix(MATH)
    children = list(part)
    if name in _GROUPS:
        _append_all(into, children)
    elif name in ("mi", "mn", "mo", "mtext"):
        _run(into, part.text or "", upright=name in ("mn", "mtext") or (name == "mi" and len(part.text or "") > 1))
    elif name == "mspace":
        _run(into, "\u2009", upright=True)
    elif name in ("msup", "msub", "msubsup"):
        kinds = {
            "msup": ("sSup", ("e", "sup")),
            "msub": ("sSub", ("e", "sub")),
            "msubsup": ("sSubSup", ("e", "sub", "sup")),
        }
        kind, places = kinds[name]
        _compose(into, kind, dict(zip(places, children, strict=True)))
    elif name == "mfrac":
        _compose(into, "f", {"num": children[0], "den": children[1]})
    elif name == "msqrt":
        root = _radical(into, hide_degree=True)
        ElementTree.SubElement(root, f"{_M}deg")
        inside = ElementTree.SubElement(root, f"{_M}e")
        _append_all(inside, children)
    elif name == "mroot":
        root = _radical(into, hide_degree=False)
        for place, child in (("deg", children[1]), ("e", children[0])):
            _append(ElementTree.SubElement(root, f"{_M}{place}"), child)
    elif name in ("mover", "munder", "munderover"):
        # Only accents and limits, which the equations of fits do not have; their base says the most.
        _append(into, children[0])
    elif name == "mtable":
        _rows_of(into, part, "right")
    elif children:
        _append_all(into, children)


def _run(into: ElementTree.Element, text: str, upright: bool) -> None:
    run = ElementTree.SubElement(into, f"{_M}r")
    if upright:
        properties = ElementTree.SubElement(run, f"{_M}rPr")
        ElementTree.SubElement(properties, f"{_M}sty", {f"{_M}val": "p"})
    written = ElementTree.SubElement(run, f"{_M}t")
    written.text = text
    written.set("{http://www.w3.org/XML/1998/namespace}space", "preserve")


def _compose(into: ElementTree.Element, kind: str, parts: dict[str, ElementTree.Element]) -> None:
    whole = ElementTree.SubElement(into, f"{_M}{kind}")
    for place, part in parts.items():
        _append(ElementTree.SubElement(whole, f"{_M}{place}"), part)


def _radical(into: ElementTree.Element, hide_degree: bool) -> ElementTree.Element:
    root = ElementTree.SubElement(into, f"{_M}rad")
    if hide_degree:
        properties = ElementTree.SubElement(root, f"{_M}radPr")
        ElementTree.SubElement(properties, f"{_M}degHide", {f"{_M}val": "1"})
    return root
