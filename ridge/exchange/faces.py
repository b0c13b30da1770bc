"""The faces of everything that goes out: those of the page, each as one plain file with all its alphabets.

The page has its faces as one variable font an alphabet, which browsers put together. Programs that lay out pages and draw
figures mix up files of one name, so each style becomes one file here, once, when the application is set up
(``python -m ridge.exchange.faces``). What no face has a letter for is shown as ``MISSING`` and said.
"""

from __future__ import annotations

import io
import logging
import sys
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Any

import matplotlib
from fontTools.merge import Merger, Options
from fontTools.subset import Options as SubsetOptions
from fontTools.subset import Subsetter
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables._g_l_y_f import Glyph, GlyphComponent
from fontTools.varLib.instancer import instantiateVariableFont

MADE = Path(__file__).parents[2] / "web" / "faces"
MISSING = "□"
_Spans = tuple[tuple[int, int], ...]
_SOURCE = Path(__file__).parents[2] / "web" / "node_modules" / "@fontsource-variable"
_ALPHABETS = ("latin", "latin-ext", "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese")
_BLOCK = 128  # code points
_PARTS: dict[str, _Spans] = {
    "latin": ((0x0000, 0x024F), (0x1E00, 0x1EFF)),
    "greek": ((0x0370, 0x03FF), (0x1F00, 0x1FFF)),
    "cyrillic": ((0x0400, 0x052F),),
    "signs": ((0x0250, 0x036F), (0x2000, 0xFFFD)),
}
"""Letters that a page takes from a face together."""
_SMALL = 0.68  # of the full size: superscripts and subscripts
_SPACES = {0x2007: 0.55, 0x2009: 0.17, 0x202F: 0.17}  # in em: figure space and both thin ones
_DROPPED = ("fvar", "gvar", "avar", "HVAR", "MVAR", "STAT", "DSIG", "vhea", "vmtx", "VORG")


@dataclass(frozen=True)
class Face:
    """One style of a family as a file (TrueType). ``weight`` as in CSS."""

    family: str
    style: str
    weight: int
    path: Path

    @property
    def plain(self) -> Path:
        """The same letters without rules of typesetting, for figures: a file with them takes three times as long to make."""
        return self.path.with_name(f"{self.path.stem}-plain.ttf")


FACES = (
    Face("Literata", "normal", 400, MADE / "literata-regular.ttf"),
    Face("Literata", "italic", 400, MADE / "literata-italic.ttf"),
    Face("Literata", "normal", 650, MADE / "literata-bold.ttf"),
    Face("Literata", "italic", 650, MADE / "literata-bold-italic.ttf"),
    Face("Commissioner", "normal", 400, MADE / "commissioner-regular.ttf"),
    Face("Commissioner", "normal", 600, MADE / "commissioner-bold.ttf"),
)
LAST = Face("DejaVu Sans", "normal", 400, Path(matplotlib.get_data_path()) / "fonts" / "ttf" / "DejaVuSans.ttf")
"""For letters that no other face has: Hebrew, Arabic, Armenian, mathematical signs. It comes with Matplotlib."""
MATHS = Face("STIX General", "normal", 400, LAST.path.with_name("STIXGeneral.ttf"))
"""For equations on a page, with slanted letters of their own code; from the same place."""
_IN_EQUATIONS: _Spans = (
    (0x20, 0x7E), (0xB0, 0xB7), (0xD7, 0xD7), (0x391, 0x3C9), (0x210E, 0x210E), (0x2202, 0x2265), (0x1D434, 0x1D467),
    (0x1D6E2, 0x1D71B),
)  # fmt: skip


def faces() -> tuple[Face, ...]:
    """Those that there are; where they were never made, the last one has to do."""
    return (*(face for face in FACES if face.path.exists()), LAST)


@cache
def _letters(path: Path) -> frozenset[int]:
    return frozenset(TTFont(path, lazy=True).getBestCmap())


def with_letters_that_exist(text: str) -> str:
    """``MISSING`` for each letter that no face has; white space and marks of direction stay."""
    known = frozenset[int]().union(*(_letters(face.path) for face in faces()))
    missing = [one for one in set(text) if ord(one) not in known and one.isprintable() and not one.isspace()]
    return text.translate({ord(one): MISSING for one in missing}) if missing else text


@dataclass(frozen=True)
class Part:
    """Some alphabets of a face as WOFF2, for a page that holds its fonts. ``range``: its letters, as CSS has them."""

    face: Face
    range: str
    font: bytes


def parts_for(text: str) -> list[Part]:
    """What a page needs of the faces of the book, of that of equations, and of the last one for letters that they lack."""
    book = [face for face in faces() if face.family == "Literata"]
    wanted = {ord(letter) for letter in text}
    known = frozenset[int]().union(*(_letters(face.path) for face in book))
    found = [
        Part(face, _as_css(spans), _part_file(face, name).read_bytes())
        for face in book
        for name, spans in _PARTS.items()
        if any(low <= code <= high for code in wanted & known for low, high in spans)
    ]
    if book and "<math" in text:
        found.append(Part(MATHS, _as_css(_IN_EQUATIONS), _part_file(FACES[0], "equations").read_bytes()))
    missing = frozenset(code // _BLOCK for code in (wanted - known) & _letters(LAST.path))
    if missing:
        spans = tuple((block * _BLOCK, (block + 1) * _BLOCK - 1) for block in sorted(missing))
        found.append(Part(LAST, _as_css(spans), _last_part(spans)))
    return found


def _as_css(spans: _Spans) -> str:
    return ",".join(f"U+{low:X}-{high:X}" for low, high in spans)


def _part_file(face: Face, name: str) -> Path:
    return face.path.with_name(f"{face.path.stem}-{name}.woff2")


@lru_cache(maxsize=16)
def _last_part(spans: _Spans) -> bytes:
    return _cut(LAST, spans)


def _cut(face: Face, spans: _Spans) -> bytes:
    """A face with the letters of these spans alone, as WOFF2."""
    options = SubsetOptions()
    options.layout_features = ["*"]
    options.name_IDs = ["*"]
    options.notdef_outline = True
    options.drop_tables += ["FFTM"]
    font = TTFont(face.path)
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=[code for code in _letters(face.path) if any(a <= code <= b for a, b in spans)])
    subsetter.subset(font)
    font.flavor = "woff2"
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()


def make() -> None:
    """Make every face from those of the page."""
    logging.getLogger("fontTools").setLevel(logging.ERROR)
    MADE.mkdir(parents=True, exist_ok=True)
    _part_file(FACES[0], "equations").write_bytes(_cut(MATHS, _IN_EQUATIONS))
    for face in FACES:
        family = face.family.lower()
        axis = "opsz" if family == "literata" else "wght"
        parts = []
        for alphabet in _ALPHABETS:
            path = _SOURCE / family / "files" / f"{family}-{alphabet}-{axis}-{face.style}.woff2"
            if path.exists():
                parts.append(_still(path, face.weight))
        font = _name(_complete(Merger(options=Options(drop_tables=[])).merge(parts)), face)
        font.save(face.path)
        for table in ("GSUB", "GPOS", "GDEF"):
            del font[table]
        font.save(face.plain)
        if family == "literata":
            for name, spans in _PARTS.items():
                _part_file(face, name).write_bytes(_cut(face, spans))


def _still(path: Path, weight: int) -> io.BytesIO:
    """A variable font at one weight, in the size of running text."""
    font = TTFont(path)
    at = {axis.axisTag: weight if axis.axisTag == "wght" else 11 for axis in font["fvar"].axes}
    font = instantiateVariableFont(font, at)
    font.flavor = None
    for table in _DROPPED:
        if table in font:
            del font[table]
    buffer = io.BytesIO()
    font.save(buffer)
    buffer.seek(0)
    return buffer


def _complete(font: TTFont) -> TTFont:
    """Put in what physics writes and the alphabets lack: raised and lowered figures with their signs, and thin spaces."""
    em = font["head"].unitsPerEm
    known = font.getBestCmap()
    rise = round(font["OS/2"].sCapHeight * (1 - _SMALL) + 0.05 * em)
    for letters, originals, up in (
        ("⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻", "0123456789+\u2212", rise),
        ("₀₁₂₃₄₅₆₇₈₉₊₋", "0123456789+\u2212", round(-0.14 * em)),
    ):
        for letter, original in zip(letters, originals, strict=True):
            _add(
                font,
                ord(letter),
                _small(known[ord(original)], up),
                round(_advance(font, known[ord(original)]) * _SMALL),
            )
    for code, width in _SPACES.items():
        _add(font, code, Glyph(), round(width * em))
    return font


def _small(original: str, up: int) -> Glyph:
    component: Any = GlyphComponent()
    component.glyphName, component.x, component.y = original, 0, up
    component.flags = 0x0002  # x and y are distances
    component.transform = [[_SMALL, 0], [0, _SMALL]]
    glyph: Any = Glyph()
    glyph.numberOfContours = -1
    glyph.components = [component]
    return glyph


def _advance(font: TTFont, name: str) -> int:
    return int(font["hmtx"][name][0])


def _add(font: TTFont, code: int, glyph: Glyph, advance: int) -> None:
    name = f"uni{code:04X}.ridge"
    font.setGlyphOrder([*font.getGlyphOrder(), name])
    font["glyf"][name] = glyph
    font["glyf"].glyphOrder = font.getGlyphOrder()
    glyph.recalcBounds(font["glyf"])
    font["hmtx"][name] = (advance, getattr(glyph, "xMin", 0) or 0)
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[code] = name


def _name(font: TTFont, face: Face) -> TTFont:
    """One family by its name, each style by its own, as those that look for fonts need it."""
    bold, slanted = face.weight > 400, face.style == "italic"
    style = " ".join([*(["Bold"] if bold else []), *(["Italic"] if slanted else [])]) or "Regular"
    whole = f"{face.family} {style}"
    for name, text in ((1, face.family), (2, style), (4, whole), (6, whole.replace(" ", "-"))):
        font["name"].setName(text, name, 3, 1, 0x409)
        font["name"].setName(text, name, 1, 0, 0)
    for name in (16, 17, 21, 22, 25):
        font["name"].removeNames(nameID=name)
    font["OS/2"].usWeightClass = 700 if bold else 400
    font["OS/2"].fsSelection = (0x20 * bold | 0x01 * slanted) or 0x40
    font["head"].macStyle = 1 * bold | 2 * slanted
    return font


if __name__ == "__main__":
    make()
    sys.exit(0)
