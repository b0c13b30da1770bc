"""What the heading of a column says: its name, its symbol, its unit."""

from __future__ import annotations

import re

from ridge.exchange.tables.unit_names import is_unit
from ridge.exchange.tables.written import unquoted

_BRACKETED = re.compile(r"^(?P<before>.*?)\s*[(\[{](?P<inside>(?:[^()\[\]{}]|\([^()]*\))*)[)\]}]\s*$")
_SYMBOL = re.compile(r"[Δδ∆]?[^\W\d_](?:_\w{1,8}|\d{1,2}|[\u2080-\u2089]{1,2}|['′])?")
_IN = re.compile(r"^(?P<name>.*\S)\s+in\s+(?P<unit>\S.*)$", re.I)
_ERROR_WORD = re.compile(r"(?i:\b(?:err(?:or)?|unc(?:ertainty)?|sd|se|std)\b)")
_FUNCTIONS = re.compile(
    r"(?:^|[\s\-+*/(])(?:log|log10|log2|ln|lg|exp|sqrt|cbrt|sin|cos|tan|asin|acos|atan|arcsin|arccos|arctan|abs|sinh|cosh|tanh|√)\s*$", re.I
)  # fmt: skip
_EXPRESSION = re.compile(r"[√^*²³⁴⁻¹+]|^\d|\w\(|^(?:log|ln|lg|exp|sqrt|sin|cos|tan)\s", re.I)

_QUANTITIES = {
    "time": "t τ T", "duration": "t", "temperature": "T θ t ϑ", "temp": "T θ", "length": "l L ℓ", "distance": "d s x r D", "height": "h H",
    "depth": "d z h D", "width": "w b", "radius": "r R", "diameter": "d D", "area": "A S", "volume": "V", "mass": "m M", "load": "m F L",
    "force": "F", "weight": "W G", "pressure": "p P", "speed": "v u c V", "velocity": "v u V", "acceleration": "a g A", "angle": "θ α β φ ϕ",
    "voltage": "U V E u", "potential": "V U E", "current": "I i", "resistance": "R r", "conductance": "G", "charge": "Q q", "capacitance": "C",
    "field": "B E H", "flux": "Φ", "power": "P", "energy": "E W U", "work": "W", "heat": "Q", "frequency": "f ν", "period": "T", "wavelength": "λ",
    "amplitude": "A a", "phase": "φ ϕ", "intensity": "I", "absorbance": "A", "concentration": "c C", "amount": "n", "density": "ρ D d",
    "activity": "A a", "dose": "D", "rate": "k r v R", "stretch": "L x s e", "extension": "x e", "displacement": "x s d", "position": "x s r z",
    "level": "h L", "light": "I", "count": "N n", "counts": "N n", "number": "N n", "index": "n", "salinity": "S", "yield": "Y y", "efficiency": "η",
    "enthalpy": "H", "entropy": "S", "growth": "G g", "sum": "S Σ", "error": "E e ε", "signal": "S y", "gain": "G g", "ratio": "R r q", "degree": "D",
    "fitted": "A B C D E F", "residual": "A B C D E F",
}  # fmt: skip
"""Quantities and their customary symbols (common practice; the list is from memory)."""
_UNITS_OF = {
    "time": "s h d min", "duration": "s h d", "mass": "g", "length": "m", "distance": "m", "height": "m", "depth": "m", "width": "m",
    "radius": "m", "diameter": "m", "voltage": "V", "current": "A", "force": "N", "weight": "N", "power": "W", "energy": "J", "work": "J",
    "heat": "J", "temperature": "K C F", "temp": "K C F", "volume": "L l", "charge": "C", "capacitance": "F", "field": "T", "load": "N g",
    "displacement": "m", "position": "m", "extension": "m", "stretch": "m", "level": "m",
}  # fmt: skip
"""Units of one letter that stand behind these names without a bracket, where no customary symbol has that letter."""


def read_heading(text: str) -> tuple[str, str, str]:
    """Name, symbol and unit of ``time (s)``, ``t / s``, ``t [s]``, ``t in s`` or ``time t / s``; empty where there is none.

    An expression such as ``1/R`` or ``log(c)`` is a name: a symbol is what a formula can be written with.
    """
    text = " ".join(unquoted(text).split())
    if "$" in text or "_{" in text:  # as typesetters write symbols
        text = re.sub(r"_\{(\w+)\}", r"_\1", text).replace("$", "").replace("\\", "")
    if len(text) > 1 and text[0] in "([{" and text[-1] in ")]}" and is_unit(text[1:-1]):
        return "", "", text[1:-1].strip()
    before, unit = _cut(text)
    if not unit and before and before[0] in "°%‰µμΩ" and is_unit(before):
        return "", "", before
    name, symbol = _name_and_symbol(before.strip().rstrip(",:;").strip(), unit)
    if not unit and symbol and name and _is_bare_unit(name, symbol):
        return name, "", symbol
    return name, symbol, unit


def _cut(text: str) -> tuple[str, str]:
    """What stands before the unit, and the unit."""
    match = _BRACKETED.match(text)
    if match and _FUNCTIONS.search(match["before"]):
        return text, ""
    if match:
        before, inside = match["before"], match["inside"].strip()
        # ``v / (m/s)`` is a quantity over its unit, as ``v (m/s)`` is one with it.
        over = before.endswith("/")
        before = before.removesuffix("/").strip()
        attached = text[len(match["before"])] == "(" and not match["before"][-1:].isspace() and not over
        own = not is_unit(inside) or (before in ("u", "σ", "f", "Δ") and len(inside) == 1)
        if attached and own and len(before.split()) == 1:
            return text, ""  # ``f(x)``, ``A(520 nm)``, ``u(d)``
        if _ERROR_WORD.search(inside):
            return text, ""
        if before and (over or is_unit(inside) or inside in ("-", "–", "1", "—") or len(inside) <= 16):
            return before, "" if inside in ("-", "–", "—", "1") else inside
        return text, ""
    before, comma, after = text.rpartition(", ")
    if comma and " / " not in after and is_unit(after) and after not in _customary(before.split()):
        return before, after
    match = _IN.match(text)
    if match and is_unit(match["unit"]):
        return match["name"], match["unit"]
    before, slash, after = text.rpartition(" / ")
    if not slash:
        before, slash, after = text.rpartition("/")
        if slash and after.endswith(")") and after.count("(") < after.count(")"):
            before, slash, after = text.partition("/")
    if slash and before.strip() and after.strip():
        before, after = before.strip(), after.strip()
        if _is_quantity_over_unit(before, after, spaced=" / " in text):
            return before, after
        words = text.split()
        if len(words) > 1 and is_unit(words[-1]):
            return " ".join(words[:-1]), words[-1]
        return ("", text) if is_unit(text) and not text[0].isdigit() else (text, "")
    words = text.split()
    if len(words) > 2 and "±" in text and is_unit(words[-1]):
        return " ".join(words[:-1]), words[-1]
    if (
        len(words) > 1
        and (len(words[-1]) > 1 or not words[-1].isalpha())
        and is_unit(words[-1])
        and not _SYMBOL.fullmatch(words[-1])
    ):
        return " ".join(words[:-1]).rstrip(","), words[-1]
    return text, ""


def symbol_and_unit(text: str) -> tuple[str, str] | None:
    """A symbol with its unit and nothing else; None for any other text.

    >>> symbol_and_unit("t (s)"), symbol_and_unit("F / N"), symbol_and_unit("(s)"), symbol_and_unit("force F (N)")
    (('t', 's'), ('F', 'N'), None, None)
    """
    name, symbol, unit = read_heading(text)
    letters = symbol if not name else name if not symbol and len(name) == 1 else ""
    return (letters, unit) if letters and unit else None


def _is_quantity_over_unit(before: str, after: str, *, spaced: bool) -> bool:
    """Whether ``before/after`` is a quantity over its unit, rather than an expression such as ``1/R`` or a unit, ``km/h``."""
    if before.replace(".", "").isdigit():
        return False
    if spaced:
        return True
    if (
        " " not in before
        and is_unit(before)
        and (
            len(before.rstrip("²³⁻¹0123456789^-")) > 1
            or f"{before}/{after}" in ("m/s", "m/s²", "m/s^2", "m/s2", "V/m", "N/m", "J/K", "W/m²")
        )
    ):
        return False
    words = before.split()
    # ``speed m/s``: what stands before the stroke is the unit's own first half.
    if (
        len(words) > 1
        and is_unit(words[-1])
        and is_unit(after)
        and (len(words[-1]) > 1 or words[-1] in ("m", "g", "V", "J", "W", "N", "C"))
    ):
        return words[-1] in _customary(words[:-1])
    return is_unit(after) or after.startswith("(")


def _name_and_symbol(text: str, unit: str) -> tuple[str, str]:
    words = text.split()
    if not words:
        return "", ""
    last = words[-1]
    if "±" in text or text.startswith(("+/-", "+-")):
        return text, ""
    if len(words) == 1:
        return ("", last) if _SYMBOL.fullmatch(last) else (text, "")
    if not _SYMBOL.fullmatch(last) or _EXPRESSION.search(text):
        return text, ""
    customary = _customary(words[:-1])
    if last in customary or last.rstrip("0123456789₀₁₂₃₄₅₆₇₈₉'′") in customary or last.partition("_")[0] in customary:
        return _without_comma(words[:-1]), last
    if last[0] in "ABCDEFGH" and len(last) == 1 and not text.isupper():
        return text, ""  # ``Beaker A``: the letter tells several apart
    if last in ("a", "b", "c") and len(last) == 1 and not customary and not unit:
        return text, ""
    return _without_comma(words[:-1]), last


def _customary(words: list[str]) -> set[str]:
    return {
        letter
        for word in words
        for letter in _QUANTITIES.get(
            word.lower().strip(",()").removesuffix("s"), _QUANTITIES.get(word.lower().strip(",()"), "")
        ).split()
    }


def _is_bare_unit(name: str, letter: str) -> bool:
    """``time s``, ``mass g``: the letter is the unit, since the quantity is not written with it."""
    last = name.split()[-1].lower()
    return letter in _UNITS_OF.get(last, "").split() and letter not in _QUANTITIES.get(last, "").split()


def _without_comma(words: list[str]) -> str:
    return " ".join(words).rstrip(",:;")
