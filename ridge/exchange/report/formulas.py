"""An equation in LaTeX as MathML, as the equation of a text document (OMML), and as a drawing."""

from __future__ import annotations

import io
import re
from unicodedata import category
from xml.etree import ElementTree

import matplotlib
from latex2mathml.converter import convert
from matplotlib.figure import Figure

from ridge.exchange.figure import INK, drawing_lock

MATH = "{http://www.w3.org/1998/Math/MathML}"
OMML = "http://schemas.openxmlformats.org/officeDocument/2006/math"
_M = f"{{{OMML}}}"
_GROUPS = ("mrow", "mstyle", "math", "semantics", "mpadded")


def to_mathml(latex: str) -> str:
    """The equation as MathML (W3C), on a line of its own."""
    return str(convert(latex, display="block"))


def to_drawing(latex: str, size: float = 12) -> bytes | None:
    """The equation as SVG of outlines, ``size`` points high; None where it holds what cannot be drawn: cases, or letters
    of a script that the mathematical font lacks."""
    if any(ord(letter) > 0x250 and category(letter) in ("Lo", "So") for letter in latex):
        return None
    plain = latex.replace(r"\left", "").replace(r"\right", "") if r"\left." in latex else latex
    plain = re.sub(r"\\(?:text|textrm)\{", r"\\mathrm{", plain)
    with drawing_lock, matplotlib.rc_context({"mathtext.fontset": "stix", "svg.fonttype": "path", "svg.hashsalt": "r"}):
        figure = Figure(figsize=(0.1, 0.1))
        figure.text(0, 0, f"${plain}$", fontsize=size, color=INK)
        buffer = io.BytesIO()
        try:
            figure.savefig(
                buffer, format="svg", bbox_inches="tight", pad_inches=0.02, transparent=True, metadata={"Date": None}
            )
        except ValueError:
            return None
    return buffer.getvalue()


def to_omml(latex: str) -> ElementTree.Element:
    """The equation as Office Math (ISO/IEC 29500-1, part 22), made from its MathML."""
    whole = ElementTree.Element(f"{_M}oMath")
    for part in ElementTree.fromstring(convert(latex)):
        _append(whole, part)
    return whole


def _append(into: ElementTree.Element, part: ElementTree.Element) -> None:
    name = part.tag.removeprefix(MATH)
    children = list(part)
    if name in _GROUPS:
        for child in children:
            _append(into, child)
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
        for child in children:
            _append(inside, child)
    elif name == "mroot":
        root = _radical(into, hide_degree=False)
        for place, child in (("deg", children[1]), ("e", children[0])):
            _append(ElementTree.SubElement(root, f"{_M}{place}"), child)
    elif name in ("mover", "munder", "munderover"):
        # Only accents and limits, which the equations of fits do not have; their base says the most.
        _append(into, children[0])
    elif name == "mtable":
        matrix = ElementTree.SubElement(into, f"{_M}eqArr")
        for row in children:
            line = ElementTree.SubElement(matrix, f"{_M}e")
            for cell in row:
                for child in cell:
                    _append(line, child)
    elif children:
        for child in children:
            _append(into, child)


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
