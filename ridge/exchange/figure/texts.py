"""Texts of a figure, measured before they are placed: every length in millimetres."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from matplotlib import font_manager
from matplotlib.font_manager import FontProperties
from matplotlib.textpath import text_to_path

from ridge.exchange.faces import FACES, LAST, with_letters_that_exist

POINT = 25.4 / 72
_LINE = 1.25  # of the size, from one line of text to the next
_ELLIPSIS = "…"

for _face in FACES:
    if _face.plain.exists():
        font_manager.fontManager.addfont(str(_face.plain))


@dataclass(frozen=True)
class Words:
    """A stretch of text in one style: ``plain`` and ``bold`` in the face of the interface, ``symbol`` in the book's slanted one,
    ``lowered`` beside a symbol, ``equation`` as mathematical text. ``size`` in points."""

    text: str
    size: float
    style: str = "plain"

    @property
    def drawn_size(self) -> float:
        return self.size * (0.72 if self.style == "lowered" else 1.0)

    @property
    def settings(self) -> dict[str, Any]:
        """What Matplotlib is told of it."""
        if self.style == "equation":
            return {"fontsize": self.drawn_size, "math_fontfamily": "stix", "parse_math": True}
        family = ["Literata" if self.style in ("symbol", "lowered") else "Commissioner", LAST.family]
        slant = "italic" if self.style == "symbol" else "normal"
        weight = 700 if self.style == "bold" else 400
        return {
            "fontsize": self.drawn_size, "fontfamily": family, "fontstyle": slant, "fontweight": weight,
            "parse_math": False,
        }  # fmt: skip

    @property
    def width(self) -> float:
        return _measured(self.text, self.drawn_size, self.style)[0]

    @property
    def rise(self) -> float:
        """How far up the line it stands."""
        return -0.18 * self.size * POINT if self.style == "lowered" else 0.0


@lru_cache(maxsize=4096)
def _measured(text: str, size: float, style: str) -> tuple[float, float, float]:
    """Width, height and depth."""
    words = Words(text, size, style).settings
    face = FontProperties(
        size=size, family=words.get("fontfamily"), style=words.get("fontstyle"), weight=words.get("fontweight"),
        math_fontfamily=words.get("math_fontfamily"),
    )  # fmt: skip
    maths = words["parse_math"]
    width, height, depth = text_to_path.get_text_width_height_descent(text, face, ismath=maths)
    if not maths:
        # Between two letters, so that white space at its ends counts as well.
        width = _ink(f"x{text}x", face) - _ink("xx", face)
    return width * POINT, height * POINT, depth * POINT


def _ink(text: str, face: FontProperties) -> float:
    return float(text_to_path.get_text_width_height_descent(text, face, ismath=False)[0])


Line = tuple[Words, ...]


def width_of(line: Line) -> float:
    return sum(words.width for words in line)


def height_of(line: Line) -> float:
    """The room of a line: that of its size, or more where an equation stands higher."""
    tallest = max((_measured(words.text, words.drawn_size, words.style)[1] for words in line), default=0.0)
    return max(max((words.size for words in line), default=0.0) * _LINE * POINT, tallest + 0.15 * POINT * line[0].size)


def depth_of(line: Line) -> float:
    """How far a line reaches below the one that its letters stand on."""
    deepest = max((_measured(words.text, words.drawn_size, words.style)[2] for words in line), default=0.0)
    return max(deepest, 0.26 * POINT * max((words.size for words in line), default=0.0))


def shortened(text: str, size: float, room: float, style: str = "plain") -> Words:
    """The text, cut with dots where it is too long for the room."""
    words = Words(with_letters_that_exist(text), size, style)
    if words.width <= room:
        return words
    low, high = 0, len(words.text)
    while low < high:
        middle = (low + high + 1) // 2
        if Words(words.text[:middle].rstrip() + _ELLIPSIS, size, style).width <= room:
            low = middle
        else:
            high = middle - 1
    return Words(words.text[:low].rstrip() + _ELLIPSIS, size, style)


def broken(text: str, size: float, room: float, most: int, style: str = "plain") -> list[Line]:
    """The text in lines that fit into the room, ``most`` at most; what is too much is cut."""
    lines: list[str] = []
    rest = with_letters_that_exist(text).split()
    while rest and len(lines) < most:
        taken = 1
        while taken < len(rest) and Words(" ".join(rest[: taken + 1]), size, style).width <= room:
            taken += 1
        if len(lines) == most - 1:
            taken = len(rest)
        lines.append(" ".join(rest[:taken]))
        rest = rest[taken:]
    return [(shortened(line, size, room, style),) for line in lines]


def axis_title(name: str, symbol: str, over: str, size: float, room: float) -> list[Line]:
    """``speed`` *v* ``/ (m/s)`` in one line, or, where that is too long for the axis, in two or three."""
    head, _, tail = symbol.partition("_")
    signs = [Words(with_letters_that_exist(head), size, "symbol")] if head else []
    signs += [Words(with_letters_that_exist(tail), size, "lowered")] if tail else []
    signs += [Words(with_letters_that_exist(f" / {over}" if signs or name else over), size)] if over else []
    whole = (*([Words(with_letters_that_exist(name) + (" " if head else ""), size)] if name else []), *signs)
    if width_of(whole) <= room or not name:
        return [whole] if width_of(whole) <= room else [_within(whole, room)]
    return [*broken(name, size, room, 2), *([_within(tuple(signs), room)] if signs else [])]


def _within(line: Line, room: float) -> Line:
    """The line with its last stretches cut to the room."""
    kept: list[Words] = []
    for words in line:
        left = room - width_of(tuple(kept))
        if left <= words.size * POINT:
            break
        kept.append(
            words
            if words.width <= left or words.style == "equation"
            else shortened(words.text, words.size, left, words.style)
        )
    return tuple(kept)
