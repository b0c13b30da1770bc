"""Equations in LaTeX as drawings, typeset by Matplotlib's mathematical text with the STIX faces."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache
from html import escape
from io import BytesIO
from threading import RLock
from unicodedata import category

import numpy as np
import numpy.typing as npt
from matplotlib.figure import Figure
from matplotlib.font_manager import FontProperties, findfont
from matplotlib.ft2font import FT2Font
from matplotlib.patches import PathPatch
from matplotlib.path import Path
from matplotlib.textpath import TextPath, text_to_path
from matplotlib.transforms import Affine2D

drawing_lock = RLock()
"""Matplotlib's settings and parsers are shared by all threads; drawings take turns."""
_BEGIN, _END = r"\begin{cases}", r"\end{cases}"
_GAP = 0.25  # of the size, between what stands side by side
_LEADING = 0.45  # of the size, between two cases
_COMMANDS = {Path.MOVETO: "M", Path.LINETO: "L", Path.CURVE3: "Q", Path.CURVE4: "C", Path.CLOSEPOLY: "Z"}
_LONGEST = 4000
_ROOM = 1.0  # points around a drawing that is a file of its own
_ALIASES = {
    "text": "mathrm", "textrm": "mathrm", "operatorname": "mathrm", "dfrac": "frac", "tfrac": "frac",
    "le": "leq", "ge": "geq", "ne": "neq",
}  # fmt: skip
_ALIAS = re.compile(rf"\\({'|'.join(_ALIASES)})(?![A-Za-z])")
_DEEPEST = 40
_THIN = 0.055  # of the size, the lines of brackets and bars
_MATRIX = re.compile(
    r"(?P<before>.*?)\\left\[\\begin\{array\}\{(?P<columns>[r|]+)\}(?P<body>.*)\\end\{array\}\\right\](?P<after>.*)",
    re.DOTALL,
)


@dataclass(frozen=True)
class Drawing:
    """An equation as outlines. All in points; ``descent``: how far it reaches below the line that it stands on."""

    path: Path
    width: float
    ascent: float
    descent: float

    def moved(self, right: float, up: float) -> Drawing:
        vertices = np.asarray(self.path.vertices) + np.array([right, up])
        return Drawing(Path(vertices, self.path.codes), self.width, self.ascent + up, self.descent - up)


def to_mathtext(latex: str) -> str | None:
    """The equation as Matplotlib takes it; None where it cannot draw it as one line: cases, commands that it does not know,
    letters of a script that its mathematical face lacks."""
    if _BEGIN in latex or not _letters_known(latex) or _depth(latex) > _DEEPEST or len(latex) > _LONGEST:
        return None
    text = latex.replace(r"\left", "").replace(r"\right", "") if r"\left." in latex else latex
    text = "$" + _ALIAS.sub(lambda match: "\\" + _ALIASES[match[1]], text) + "$"
    with drawing_lock:
        try:
            _size(text, 10)
        except (ValueError, RecursionError):
            return None
    return text


def draw_equation(latex: str, size: float = 12) -> Drawing | None:
    """The equation ``size`` points high, cases under one another behind a brace, a matrix in square brackets; None where it cannot be
    drawn."""
    matrix = _MATRIX.fullmatch(latex)
    if matrix is not None:
        return _draw_matrix(matrix, size)
    before, begin, rest = latex.partition(_BEGIN)
    if not begin:
        text = to_mathtext(latex)
        return None if text is None else _drawn(text, size)
    inside, after = _until_end(rest)
    if inside is None or _depth(latex) > _DEEPEST:
        return None
    rows = [[draw_equation(part.strip(), size) for part in row] for row in _rows(inside)]
    outside = [draw_equation(part.strip(), size) if part.strip() else _NOTHING for part in (before, after)]
    if any(part is None for row in rows for part in row) or None in outside or not rows:
        return None
    block = _behind_brace(_stacked([[part for part in row if part] for row in rows], size), size)
    return _beside([part for part in (outside[0], block, outside[1]) if part and part.width], size)


def _draw_matrix(matrix: re.Match[str], size: float) -> Drawing | None:
    rows = [[draw_equation(part.strip(), size) for part in row.split("&")] for row in matrix["body"].split(r"\\")]
    outside = [
        draw_equation(part.strip(), size) if part.strip() else _NOTHING for part in (matrix["before"], matrix["after"])
    ]
    if None in outside or any(part is None for row in rows for part in row):
        return None
    block = _in_columns([[part for part in row if part] for row in rows], matrix["columns"].find("|"), size)
    return _beside([part for part in (outside[0], _in_brackets(block, size), outside[1]) if part and part.width], size)


def as_svg(drawing: Drawing, color: str, said: str = "") -> bytes:
    """The drawing as SVG of its own size; ``said``: what it says, for those who cannot see it."""
    room = _ROOM
    width, height = drawing.width + 2 * room, drawing.ascent + drawing.descent + 2 * room
    flip = f"translate({room:g} {drawing.ascent + room:.2f}) scale(1 -1)"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.2f}pt" height="{height:.2f}pt" '
        f'viewBox="0 0 {width:.2f} {height:.2f}">{f"<title>{escape(said)}</title>" if said else ""}<path fill="{color}" transform="{flip}" d="{_outline(drawing.path)}"/></svg>'
    ).encode()


def as_png(drawing: Drawing, color: str, resolution: int = 300) -> bytes:
    """The drawing on white, at so many dots an inch."""
    width, height = drawing.width + 2 * _ROOM, drawing.ascent + drawing.descent + 2 * _ROOM
    placed = drawing.moved(_ROOM, drawing.descent + _ROOM).path
    body = BytesIO()
    with drawing_lock:
        figure = Figure(figsize=(width / 72, height / 72), facecolor="white")
        shape = PathPatch(placed, facecolor=color, linewidth=0)
        shape.set_transform(Affine2D().scale(1 / 72) + figure.dpi_scale_trans)
        figure.add_artist(shape)
        figure.savefig(body, format="png", dpi=resolution)
    return body.getvalue()


def _outline(path: Path) -> str:
    parts = []
    for points, code in path.iter_segments(curves=True, simplify=False):
        numbers = "" if code == Path.CLOSEPOLY else " ".join(f"{number:.2f}" for number in points)
        parts.append(_COMMANDS[code] + numbers)
    return "".join(parts)


_NOTHING = Drawing(Path(np.empty((0, 2))), 0.0, 0.0, 0.0)


def _face(size: float) -> FontProperties:
    return FontProperties(size=size, math_fontfamily="stix")


def _size(text: str, size: float) -> tuple[float, float, float]:
    return text_to_path.get_text_width_height_descent(text, _face(size), ismath=True)


def _drawn(text: str, size: float) -> Drawing:
    with drawing_lock:
        width, height, descent = _size(text, size)
        path = TextPath((0, 0), text, size=size, prop=_face(size))
    return Drawing(Path(path.vertices, path.codes), width, height - descent, descent)


def _beside(parts: list[Drawing], size: float) -> Drawing:
    placed, right = [], 0.0
    for part in parts:
        placed.append(part.moved(right, 0))
        right += part.width + _GAP * size
    return _together(placed)


def _together(parts: list[Drawing]) -> Drawing:
    vertices: npt.NDArray[np.float64] = np.concatenate([np.asarray(part.path.vertices) for part in parts])
    codes = np.concatenate([np.asarray(part.path.codes) for part in parts])
    right = max(float(np.max(np.asarray(part.path.vertices)[:, 0])) for part in parts)
    return Drawing(
        Path(vertices, codes), right, max(part.ascent for part in parts), max(part.descent for part in parts)
    )


def _stacked(rows: list[list[Drawing]], size: float) -> Drawing:
    """Rows under one another, their columns begin at the same places, the whole about the height of a sign."""
    columns = max(len(row) for row in rows)
    widths = [max((row[place].width for row in rows if place < len(row)), default=0.0) for place in range(columns)]
    starts = [sum(widths[:place]) + place * 2 * _GAP * size for place in range(columns)]
    placed: list[Drawing] = []
    down = 0.0
    for row in rows:
        ascent, descent = max(part.ascent for part in row), max(part.descent for part in row)
        placed += [part.moved(start, -down - ascent) for part, start in zip(row, starts, strict=False)]
        down += ascent + descent + _LEADING * size
    height = down - _LEADING * size
    middle = height / 2 + 0.25 * size
    whole = _together([part.moved(0, middle) for part in placed])
    return Drawing(whole.path, whole.width, middle, height - middle)


def _behind_brace(block: Drawing, size: float) -> Drawing:
    brace = _drawn(r"$\{$", size)
    height = block.ascent + block.descent
    vertices = np.asarray(brace.path.vertices).copy()
    low, high = vertices[:, 1].min(), vertices[:, 1].max()
    vertices[:, 1] = (vertices[:, 1] - low) / (high - low) * height - block.descent
    tall = Drawing(Path(vertices, brace.path.codes), brace.width, block.ascent, block.descent)
    return _together([tall, block.moved(brace.width + _GAP * size, 0)])


def _in_columns(rows: list[list[Drawing]], bar: int, size: float) -> Drawing:
    """Rows under one another, each column flush right, with a rule before column ``bar`` where that is not −1."""
    count = max(len(row) for row in rows)
    widths = [max(row[place].width for row in rows if place < len(row)) for place in range(count)]
    placed: list[Drawing] = []
    down = 0.0
    for row in rows:
        ascent, descent = max(part.ascent for part in row), max(part.descent for part in row)
        right = 0.0
        for part, width in zip(row, widths, strict=False):
            right += width
            placed.append(part.moved(right - part.width, -down - ascent))
            right += 3 * _GAP * size
        down += ascent + descent + _LEADING * size
    height = down - _LEADING * size
    if bar > 0:
        at = sum(widths[:bar]) + (3 * bar - 1.5) * _GAP * size
        placed.append(_rule(at, -height, _THIN * size, height))
    middle = height / 2 + 0.25 * size
    whole = _together([part.moved(0, middle) for part in placed])
    return Drawing(whole.path, whole.width, middle, height - middle)


def _rule(left: float, bottom: float, width: float, height: float) -> Drawing:
    """A filled rectangle."""
    corners = [
        (left, bottom),
        (left + width, bottom),
        (left + width, bottom + height),
        (left, bottom + height),
        (left, bottom),
    ]
    codes = [Path.MOVETO, Path.LINETO, Path.LINETO, Path.LINETO, Path.CLOSEPOLY]
    return Drawing(Path(np.array(corners), codes), left + width, bottom + height, -bottom)


def _in_brackets(block: Drawing, size: float) -> Drawing:
    """In square brackets as high as it is."""
    thin, tick, room = _THIN * size, 0.3 * size, 0.15 * size
    bottom, height = -block.descent - room, block.ascent + block.descent + 2 * room
    far = block.width + 2 * (tick + room)
    parts = [block.moved(tick + room, 0)]
    for left, inner in ((0.0, 0.0), (far - thin, far - tick)):
        parts.append(_rule(left, bottom, thin, height))
        parts += [_rule(inner, at, tick, thin) for at in (bottom, bottom + height - thin)]
    return _together(parts)


def _until_end(text: str) -> tuple[str | None, str]:
    """What stands before the end of the cases that have begun, and what follows."""
    depth, place = 1, 0
    for match in re.finditer(r"\\(begin|end)\{cases\}", text):
        depth += 1 if match[1] == "begin" else -1
        place = match.end()
        if depth == 0:
            return text[: match.start()], text[place:]
    return None, ""


def _rows(inside: str) -> list[list[str]]:
    """The cases, each in its parts."""
    rows: list[list[str]] = [[""]]
    depth = 0
    for part in re.split(r"(\\begin\{cases\}|\\end\{cases\}|\\\\|&)", inside):
        depth += {_BEGIN: 1, _END: -1}.get(part, 0)
        if part == r"\\" and depth == 0:
            rows.append([""])
        elif part == "&" and depth == 0:
            rows[-1].append("")
        else:
            rows[-1][-1] += part
    return [kept for row in rows if (kept := [part for part in row if part.strip()])]


@cache
def _known() -> frozenset[int]:
    return frozenset(FT2Font(findfont("STIXGeneral")).get_charmap())


def _letters_known(latex: str) -> bool:
    return all(ord(letter) < 0x80 or (ord(letter) in _known() and category(letter) != "Lo") for letter in latex)


def _depth(latex: str) -> int:
    """How deep its brackets go."""
    deepest = depth = 0
    for letter in latex:
        depth += {"{": 1, "}": -1}.get(letter, 0)
        deepest = max(deepest, depth)
    return deepest + latex.count(_BEGIN)
