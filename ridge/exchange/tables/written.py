"""Cells as people write numbers: with thousands separators, a unit, an uncertainty, a fraction, in quotes.

``0.10(1)`` is the value with the uncertainty in its last digits (JCGM 100, 7.2.2).
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from ridge.exchange.cells import NotANumber, read_number
from ridge.exchange.tables.unit_names import is_unit

SPACES = "\u00a0\u2007\u2009\u202f "
_STRIPPED = SPACES + "\t\r\n\ufeff"
_MINUS = str.maketrans("\u2212\u2013\u2012\u2010\u2011", "-----")
_RAISED = str.maketrans("⁻⁺⁰¹²³⁴⁵⁶⁷⁸⁹", "-+0123456789")
_QUOTES = (('"', '"'), ("'", "'"), ("“", "”"), ("„", "“"), ("‘", "’"), ("«", "»"))
_POWER = r"(?:\s*[×·*x⋅]\s*10\s*(?:\^|\*\*)?\s*\(?[+-]?[⁻⁺]?[\d⁰¹²³⁴-⁹]+\)?|[eE][+-]?\d+)"
# A number with what may stand before and after it; what its signs mean is settled later.
_DIGITS = rf"[+-]?(?:\d(?:[\d.,'’]|[{SPACES}](?=\d{{3}}(?!\d)))*+|[.,]\d++){_POWER}?"
_UNIT = (
    r"[^\s\d.,;:<>=()\"'±+~≈?!&#@|\\*/^†-][^\s<>=;:\"±,?!&#@|\\]{0,11}(?:(?: ?[/·*] ?| )[^\s<>=;:\"±,?!&#@|\\]{1,8})?"
)
_PLUS_MINUS = r"(?:±|\+/?-|\\pm)"
_FORMS = re.compile(
    rf"(?P<open>\()?\s*(?P<value>{_DIGITS})\s*(?P<own>{_UNIT})?\s*"
    rf"(?:{_PLUS_MINUS}\s*(?P<error>{_DIGITS})\s*(?P<percent>%)?)?\s*(?(open)\))\s*"
    rf"(?P<power>{_POWER})?\s*(?P<unit>{_UNIT})?"
)
_CONCISE = re.compile(
    rf"(?P<value>[+-]?\d[\d.,]*)(?:\((?P<last>\d+(?:[.,]\d+)?)\)|\s+\(±?\s*(?P<apart>\d*[.,]\d+)\))(?P<power>{_POWER})?\s*(?P<unit>{_UNIT})?"
)
_FRACTION = re.compile(r"(?P<sign>[+-]?)\s*(?:(?P<whole>\d{1,6})\s+)?(?P<over>\d{1,9})\s*[/⁄∕]\s*(?P<under>\d{1,9})")
_VULGAR = str.maketrans(
    {
        "½": " 1/2",
        "¼": " 1/4",
        "¾": " 3/4",
        "⅓": " 1/3",
        "⅔": " 2/3",
        "⅛": " 1/8",
        "⅜": " 3/8",
        "⅝": " 5/8",
        "⅞": " 7/8",
    }
)
_EXPONENT = re.compile(r"\s*[×·*x⋅]\s*10\s*(?:\^|\*\*)?\s*\(?([+-]?\d+)\)?$")
_BY_COMMA = re.compile(r"([+-]?[1-9]\d{0,2})((?:,\d{3})+)(\.\d*)?((?:[eE][+-]?\d+)?)")
_BY_POINT = re.compile(r"([+-]?[1-9]\d{0,2})((?:\.\d{3})+)(,\d*)?((?:[eE][+-]?\d+)?)")
_BY_SPACE = re.compile(rf"[+-]?[1-9]\d{{0,2}}(?:[{SPACES}]\d{{3}})+(?:[.,]\d*)?(?:[eE][+-]?\d+)?")
_BY_APOSTROPHE = re.compile(r"[+-]?[1-9]\d{0,2}(?:['’]\d{3})+(?:[.,]\d*)?(?:[eE][+-]?\d+)?")
_PLAIN = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")

MISSING = frozenset(
    [
        "n/a",
        "na",
        "n.a.",
        "nan",
        "-",
        "--",
        "—",
        "–",
        ".",
        "…",
        "?",
        "null",
        "none",
        "nil",
        "missing",
        "#n/a",
        "n.d.",
    ]
)
"""Marks for a value that is not there (common practice), in small letters."""
_MAY_BE_NUMBER = re.compile(r"ca\.?\s*[\d.,]|about\s|approx|err:|inf", re.I)
_ERROR = re.compile(r"#(?:DIV/0!|N/A|REF!|VALUE!|NAME\?|NUM!|NULL!|SPILL!|ERROR!)|Err:\d{3}", re.I)
_LIMIT = re.compile(r"(?:<|>|≤|≥|<=|>=|≪|≫)\s*[+-]?[\d.,].*")
_ABOUT = re.compile(r"(?:~|≈|≃|ca\.?|about|approx(?:\.|imately)?)\s*[+-]?[\d.,].*|[\d.,]+\s*(?:\?|\*+|†|[a-d]\))", re.I)


@dataclass(frozen=True)
class Written:
    """A number as the grid takes it: decimal point, no thousands separators. ``uncertainty`` likewise, empty for none;
    ``of_value``: whether that is a percentage of the value."""

    value: str
    uncertainty: str = ""
    of_value: bool = False
    unit: str = ""


@lru_cache(maxsize=50_000)
def read_written(cell: str, decimal: str) -> Written | str:
    """The number that a cell means under a decimal sign, or why it is none, in a few words."""
    body = unquoted(cell)
    if body[:1].isalpha() and not _MAY_BE_NUMBER.match(body) and body.lower() not in MISSING:
        return "is not a number"
    plain = plain_number(body, decimal)
    if plain is not None:
        try:
            read_number(plain)
        except NotANumber as reason:
            return str(reason).partition("' ")[2] or str(reason)
        return Written(plain)
    body = body.translate(_MINUS)
    return _more(body, decimal) or _why_not(body)


def _more(body: str, decimal: str) -> Written | None:
    if "/" in body or "⁄" in body or "∕" in body or any(letter in body for letter in "½¼¾⅓⅔⅛⅜⅝⅞"):
        match = _FRACTION.fullmatch(body.translate(_VULGAR).strip())
        if match and int(match["under"]):
            size = int(match["whole"] or 0) + int(match["over"]) / int(match["under"])
            return Written(repr(-size if match["sign"] == "-" else size).removesuffix(".0"))
    if body.endswith(")") or ")" in body:
        match = _CONCISE.fullmatch(body)
        if match:
            return _concise(match, decimal)
    match = _FORMS.fullmatch(body)
    if match is None or (match["own"] and match["unit"]) or (match["open"] and not match["error"]):
        return None
    unit = (match["own"] or match["unit"] or "").strip()
    if (" " in unit or any(map(str.isdigit, unit))) and not is_unit(unit):
        return None
    if match["error"] is None and (not unit or match["power"]):
        return None
    value = plain_number(match["value"] + (match["power"] or ""), decimal)
    if value is None or not _computable(value):
        return None
    if match["error"] is None:
        return Written(value, unit=unit)
    error = plain_number(match["error"] + ("" if match["percent"] else match["power"] or ""), decimal)
    if error is None or not _computable(error) or error.startswith("-"):
        return None
    return Written(value, error, bool(match["percent"]) and unit != "%", unit)


def _concise(match: re.Match[str], decimal: str) -> Written | None:
    """``0.10(1)``: the bracket counts in units of the last digit, unless it has a decimal sign of its own."""
    digits = plain_number(match["value"], decimal)
    last = plain_number(match["last"] or match["apart"], decimal)
    if digits is None or last is None:
        return None
    power = match["power"] or ""
    size = Decimal(last) if "." in last else Decimal(last) * Decimal(1).scaleb(-len(digits.partition(".")[2]))
    value, error = plain_number(digits + power, decimal="point"), plain_number(f"{size:f}{power}", decimal="point")
    if value is None or error is None or not _computable(value) or not _computable(error):
        return None
    return Written(value, error, unit=(match["unit"] or "").strip())


def _computable(number: str) -> bool:
    try:
        return read_number(number) is not None
    except NotANumber:
        return False


def unquoted(cell: str) -> str:
    """Without white space and quotation marks around it; ``="1.5"``, as spreadsheets write texts, likewise."""
    body = cell.strip(_STRIPPED)
    if body.startswith('="') and body.endswith('"') and len(body) > 3:
        body = body[1:]
    for first, last in _QUOTES:
        if len(body) > 1 and body.startswith(first) and body.endswith(last):
            return body[1:-1].strip(_STRIPPED)
    return body[1:] if body.startswith("'") and len(body) > 1 and not body.endswith("'") else body


def plain_number(text: str, decimal: str) -> str | None:
    """A number with a decimal point and nothing else; None where the text is no number under this decimal sign."""
    if _PLAIN.fullmatch(text) and (decimal == "point" or "." not in text):
        return text
    body = text.strip(_STRIPPED).translate(_MINUS)
    if not body or not any(letter.isdigit() for letter in body):
        return None
    body = _EXPONENT.sub(r"e\1", body.translate(_RAISED) if any(letter in body for letter in "⁰¹²³⁴⁵⁶⁷⁸⁹") else body)
    if _BY_SPACE.fullmatch(body):
        body = re.sub(f"[{SPACES}]", "", body)
    elif _BY_APOSTROPHE.fullmatch(body):
        body = body.replace("'", "").replace("’", "")
    own, other, grouped = (".", ",", _BY_COMMA) if decimal == "point" else (",", ".", _BY_POINT)
    if match := grouped.fullmatch(body):
        body = match[1] + match[2].replace(other, "") + (match[3] or "") + match[4]
    elif other in body and (decimal == "point" or own in body):
        return None
    body = body.replace(",", ".")
    return body if _PLAIN.fullmatch(body) else None


def _why_not(body: str) -> str:
    if body.lower() in MISSING:
        return "marks a missing value"
    if _ERROR.fullmatch(body):
        return "is an error of the spreadsheet"
    if _LIMIT.fullmatch(body):
        return "is a limit, not a value"
    if _ABOUT.fullmatch(body):
        return "is marked as uncertain"
    if body.startswith("="):
        return "is a formula without a stored value"
    try:
        read_number(body)
    except NotANumber as reason:
        return str(reason).partition("' ")[2].partition(":")[0] or "is not a number"
    return "is not a number"
