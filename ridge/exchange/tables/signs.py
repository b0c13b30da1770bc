"""What separates the cells and which sign is the decimal one: decided by the table, or asked."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence

from ridge.exchange.tables.cutting import SIGNS, Cutter
from ridge.exchange.tables.result import Decimal, Decision, NoTable, Option, Question, Separator
from ridge.exchange.tables.times import looks_like_time
from ridge.exchange.tables.written import Written, plain_number, read_written

_TOKEN = re.compile(r"(?<![\w.,])[+-]?\d[\d.,]*(?:[eE][+-]?\d+)?")
_UNCLEAR = re.compile(r"[+-]?[1-9]\d{0,2},\d{3}")
_UNCLEAR_POINT = re.compile(r"[+-]?[1-9]\d{0,2}(?:\.\d{3})+")
_STRONG_COMMA_ANYWHERE = re.compile(r"(?<![\d.,])(?:0,\d|\d+,(?:\d{1,2}|\d{4,})(?![\d.,])|\d{4,},\d)")
_STRONG_POINT_ANYWHERE = re.compile(
    r"(?<![\d.,])(?:\d+(?:,\d{3})+\.\d|\d+\.(?:\d{1,2}|\d{4,})(?![\d.,])|0\.\d|\d{4,}\.\d|\d{1,3}(?:,\d{3}){2,}(?![\d,]))"
)
_BY_POINTS = re.compile(r"[+-]?[1-9]\d{0,2}(?:\.\d{3}){2,}")


def is_number(cell: str, decimal: str) -> bool:
    """Whether a cell holds a number, a date or a clock time."""
    return isinstance(read_written(cell, decimal), Written) or looks_like_time(cell)


def find_separator(
    sample: Sequence[str], chosen: Separator | None, decimal: str | None
) -> tuple[Decision[Separator], list[Question]]:
    """The separator that makes the most even table with the most numbers; asked where two do equally well."""
    if chosen is not None:
        return Decision(chosen), []
    heading = _heading_of(sample)
    if any("\t" in line for line in sample):
        return Decision("tab", "tabs stand between the cells"), []
    scored = []
    sample = _of_numbers(sample)
    for name, sign in SIGNS.items():
        if (name == "bar" and not any("|" in line for line in sample)) or (
            sign not in ("", "\t") and not any(sign in line for line in sample)
        ):
            continue
        if name == "spaces" and not any(" " in line.strip() or "\u00a0" in line for line in sample):
            continue
        try:
            scored.append((_score(sample, name, decimal), name))
        except NoTable:
            continue
    best, name = max(scored, key=lambda one: one[0])
    rivals = [
        other for score, other in scored if other != name and score[0] >= 0.999 * best[0] and _stands(sample, other)
    ]
    if name == "comma" and heading and re.search(r",\S", heading):
        return Decision(name, "the heading has commas between its words"), []
    if best[0] > 0.6 and rivals and _stands(sample, name) and {name, *rivals} != {"tab"}:
        questions = _ask_separator(sample, [name, *rivals])
        if questions:
            return Decision(name), questions
    if name == "tab":
        return Decision("tab", "one cell in each line"), []
    return Decision(
        name, f"{'bars' if name == 'bar' else name if name == 'spaces' else name + 's'} make an even table"
    ), []


def _has_numbers(line: str) -> bool:
    return sum(map(str.isdigit, line)) >= sum(map(str.isalpha, line)) and any(map(str.isdigit, line))


def _of_numbers(sample: Sequence[str]) -> Sequence[str]:
    """The lines that are more figures than letters, where they are the most: titles and headings say little here."""
    held = [line for line in sample if _has_numbers(line)]
    return held if 3 * len(held) >= len(sample) else sample


def _heading_of(sample: Sequence[str]) -> str:
    """The line above the first one of numbers."""
    first = next((place for place, line in enumerate(sample) if _has_numbers(line)), 0)
    return sample[first - 1] if first else ""


def _score(sample: Sequence[str], name: Separator, decimal: str | None) -> tuple[float, float, float]:
    rows = Cutter.of(name, sample).rows(sample)
    width, count = Counter(map(len, rows)).most_common(1)[0]
    body = [row for row in rows if len(row) == width] or rows
    best = (-1.0, 0.0, 0.0)
    for sign in [decimal] if decimal else ["point", "comma"]:
        if name == "comma" and sign == "comma" and decimal is None and not any('"' in line for line in sample):
            continue
        cells = [cell for row in body for cell in row if cell]
        numbers = sum(is_number(cell, sign) for cell in cells) / (len(cells) or 1)
        even = count / len(rows)
        # Without a single number, as under a heading alone, gaps between words say little.
        columns = 1.0 if name == "spaces" and not numbers else min(width, 3)
        best = max(best, (round(even * numbers, 3), columns, 0.01 if sign == "point" else 0.0))
    return best


def _stands(sample: Sequence[str], name: Separator) -> bool:
    """Whether every line, a heading included, has as many cells under this separator."""
    rows = Cutter.of(name, sample).rows(sample)
    return len({len(row) for row in rows}) == 1


def _ask_separator(sample: Sequence[str], names: list[Separator]) -> list[Question]:
    """The ways in which a line could be read, where they differ in what they make of it."""
    line = next(
        (
            line
            for line in sample
            if any(letter.isdigit() for letter in line) and not any(letter.isalpha() for letter in line)
        ),
        sample[-1],
    )
    options: list[Option] = []
    seen: set[tuple[str, ...]] = set()
    for name in names:
        cells = Cutter.of(name, sample).rows([line])[0]
        for sign in ("point", "comma"):
            if name == "comma" and sign == "comma":
                continue
            numbers = [plain_number(cell, sign) for cell in cells]
            if name == "spaces" and any(cell.endswith((",", ";")) for cell in cells):
                continue
            if any(number is None for number in numbers) or (read := tuple(str(number) for number in numbers)) in seen:
                continue
            seen.add(read)
            words = (
                f"one number, {read[0]}"
                if len(read) == 1
                else f"{len(read)} numbers, {' and '.join(read) if len(read) == 2 else ', '.join(read)}"
            )
            options.append(Option(words, {"separator": name, "decimal": sign}))
    return [Question("separator", f"What is “{line.strip()[:40]}”?", tuple(options))] if len(options) > 1 else []


def find_decimal(
    rows: Sequence[Sequence[str]], text: str, separator: Separator, chosen: Decimal | None
) -> tuple[Decision[Decimal], list[Question]]:
    """The decimal sign of the numbers in these rows; ``text`` is searched where they alone leave it open."""
    if chosen is not None:
        return Decision(chosen), []
    strong: dict[Decimal | None, str] = {}
    unclear: list[tuple[int, str]] = []
    whole: dict[int, set[str]] = {}
    for row in rows:
        for place, cell in enumerate(row):
            if not cell or looks_like_time(cell) or not (is_number(cell, "point") or is_number(cell, "comma")):
                continue
            for token in _TOKEN.findall(cell):
                if _BY_POINTS.fullmatch(token):
                    strong.setdefault("comma", token)
                elif _UNCLEAR.fullmatch(token):
                    unclear.append((place, token))
                elif "," not in token and "." not in token:
                    whole.setdefault(place, set()).add(token.lstrip("+-"))
                elif not _UNCLEAR_POINT.fullmatch(token):
                    as_point, as_comma = plain_number(token, "point"), plain_number(token, "comma")
                    sign: Decimal | None = (
                        "point"
                        if as_point is not None and ("." in token or as_comma is None)
                        else "comma"
                        if as_comma is not None
                        else None
                    )
                    strong.setdefault(sign, token)
    if "comma" in strong and not ("point" in strong and unclear):
        has = "points between thousands" if _BY_POINTS.fullmatch(strong["comma"]) else "a decimal comma"
        return Decision("comma", f"{strong['comma']} has {has}"), []
    if "point" in strong and "comma" not in strong:
        return Decision(
            "point",
            f"{strong['point']} has a decimal point"
            if "." in strong["point"]
            else f"{strong['point']} has commas between thousands",
        ), []
    if not unclear:
        return Decision("point"), []
    if "comma" not in strong:
        decided = _by_other_rows(unclear, whole, text, separator)
        if decided:
            return decided, []
    return Decision("point"), [_ask_decimal(unclear[0][1])]


def _by_other_rows(
    unclear: list[tuple[int, str]], whole: dict[int, set[str]], text: str, separator: str
) -> Decision[Decimal] | None:
    """Evidence in the same column, farther down, or in what separates the cells."""
    beside = {number for place, _ in unclear for number in whole.get(place, set())}
    hundreds = next(
        (number for number in beside if 100 <= int(number.partition("e")[0].partition("E")[0] or 0) <= 999), None
    )
    thousands = next((number for number in beside if len(number) >= 4 and number.isdigit()), None)
    if thousands and not hundreds:
        return Decision("comma", f"{thousands} has no sign between thousands")
    if hundreds and not thousands:
        return Decision("point", f"{hundreds} stands in the same column, so commas are between thousands")
    if separator != "comma":
        comma, point = _STRONG_COMMA_ANYWHERE.search(text), _STRONG_POINT_ANYWHERE.search(text)
        if comma and not point:
            return Decision("comma", f"{comma[0]} has a decimal comma")
        if point and not comma:
            return Decision("point", f"{point[0]} has a decimal point")
    if separator == "semicolon":
        return Decision("comma", "semicolons stand between the cells where the comma is the decimal sign")
    return None


def _ask_decimal(token: str) -> Question:
    point, comma = plain_number(token, "point"), plain_number(token, "comma")
    return Question(
        "decimal",
        f"What is “{token}”?",
        (
            Option(f"{comma}: the comma is the decimal sign", {"decimal": "comma"}),
            Option(f"{point}: the comma separates thousands", {"decimal": "point"}),
        ),
    )
