"""The lines of a text that may be a table, and what is plainly no table."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from ridge.exchange.tables.result import NoTable, PassedOver

LONGEST = 20_000_000
"""Characters that a table may have."""
MOST_ROWS = 200_000
"""Rows that are read of a table: as many as a study holds."""
_SPARE = 200  # lines for headings, notes and blank ones beyond that
_LONGEST_LINE = 200_000
_MARKUP = (
    (re.compile(r"<\s*(?:!doctype|html|table|thead|tbody|tr|td|div|span|p)\b", re.I), "HTML"),
    (re.compile(r"^\s*<\?xml", re.I), "XML"),
    (re.compile(r"^\s*\{\\rtf"), "RTF"),
    (re.compile(r"^[^\n]*&[^\n]*\\\\\s*$", re.M), "LaTeX"),
    (re.compile(r"\\begin\{(?:tabular|array|table|document)\}"), "LaTeX"),
)
_JSON = re.compile(r"""^\s*[\[{]\s*\{?\s*"[^"\n]*"\s*[:,]""")
_RULE = re.compile(r"[\s|:+=_─━═┼├┤┬┴*~-]{3,}")
_COMMENT = re.compile(r"\s*(?:#+|%+|//+|!+)(?!N/A|DIV|REF|VALUE|NAME|NUM|NULL)(?=[^\S\t]|[^\W\d]|$)", re.I)
_OPEN_QUOTE = re.compile(r'(?:^|[\t,;|])\s*"')


@dataclass(frozen=True)
class Lines:
    """The lines that hold something. ``numbers``: of each its number in the text, from 1; ``gaps``: places before which
    lines are empty; ``more``: lines beyond those that are read."""

    texts: list[str]
    numbers: list[int] | range
    gaps: frozenset[int] = frozenset()
    more: int = 0
    comments: dict[int, str] = field(default_factory=dict)
    passed_over: tuple[PassedOver, ...] = ()


def lines_of(text: str) -> Lines:
    """The lines of a pasted text or a text file. Raises NoTable."""
    if len(text) > LONGEST:
        raise NoTable("This is too long to import: 20 million characters at most. Import a part of it.")
    text = text.lstrip("\ufeff")
    if "\0" in text:
        text = text.replace("\0", "")
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    if "\f" in text or "\v" in text:
        text = text.replace("\f", "\n").replace("\v", "\n")
    if not text.strip():
        raise NoTable("There is nothing to import. Copy some rows first.")
    _refuse_markup(text[:20_000])
    points = _points(text) or _assignments(text)
    if points is not None:
        return Lines(points, range(1, len(points) + 1))
    if ": " in text[:2_000]:
        text = _named(text)
    found = text.split("\n", MOST_ROWS + _SPARE)
    more = 0
    if len(found) > MOST_ROWS + _SPARE:
        rest = found.pop()
        more = rest.count("\n") + bool(rest.rstrip("\n"))
        more -= len(rest) - len(rest.rstrip("\n"))
    if max(map(len, found)) > _LONGEST_LINE:
        raise NoTable("A line of this has more than 200 000 characters: that is no table. Import a part of it.")
    return _sorted_out(_joined(found) if '"' in text else [(i + 1, line) for i, line in enumerate(found)], max(0, more))


_NAMED_VALUE = re.compile(r"(?P<name>[^\t;|:]*[^\W\d_][^\t;|:]*):\s+(?P<value>[+\-−]?[\d.,]+\S*(?:\s\S{1,6})?)\s*")


def _named(text: str) -> str:
    """``Reading 1: 2.5`` on every line as a name and a number; other texts as they are."""
    lines = [line for line in text[:200_000].split("\n") if line.strip()]
    if len(text) > 200_000 or len(lines) < 2:
        return text
    matches = [_NAMED_VALUE.fullmatch(line) for line in lines]
    return (
        "\n".join(f"{match['name'].strip()}\t{match['value']}" for match in matches if match) if all(matches) else text
    )


def _sorted_out(found: list[tuple[int, str]], more: int) -> Lines:
    texts: list[str] = []
    numbers: list[int] = []
    gaps: set[int] = set()
    comments: dict[int, str] = {}
    passed: list[PassedOver] = []
    for number, line in found:
        if not line or not line.strip():
            if texts:
                gaps.add(len(texts))
            continue
        first = line.lstrip()[0]
        if first in "#%/!" and (match := _COMMENT.match(line)):
            comments[number] = line[match.end() :].strip()
            continue
        if first in "-=_|+─━═*~:" and _RULE.fullmatch(line):
            passed.append(PassedOver(number, number, line.strip()[:20], "only a drawn line"))
            continue
        texts.append(line)
        numbers.append(number)
    if not texts and comments:
        return Lines(list(comments.values()), list(comments), more=more, passed_over=tuple(passed))
    if not texts:
        raise NoTable("These cells are empty.")
    return Lines(texts, numbers, frozenset(gaps), more, comments, tuple(passed))


def _joined(found: list[str]) -> list[tuple[int, str]]:
    """Lines with their numbers, those of one quoted cell put together."""
    joined: list[tuple[int, str]] = []
    place = 0
    while place < len(found):
        line, begin = found[place], place
        if line.count('"') % 2 and _OPEN_QUOTE.search(line):
            for ahead in range(place + 1, min(place + 12, len(found))):
                if found[ahead].count('"') % 2:
                    line = " ".join(part.strip("\n") for part in found[place : ahead + 1])
                    place = ahead
                    break
        joined.append((begin + 1, line))
        place += 1
    return joined


def _refuse_markup(beginning: str) -> None:
    for pattern, name in _MARKUP:
        if pattern.search(beginning):
            raise NoTable(f"This is markup ({name}), not a table. Copy the table as it is shown, or save it as CSV.")
    if _JSON.match(beginning):
        raise NoTable("This is JSON. Save it as a file and open that.")


_POINT = re.compile(r"(?P<label>[^\W\d_]\w{0,3})?\s*[=:]?\s*[(\[{]\s*(?P<inside>[^()\[\]{}\n]*)\s*[)\]}]")
_BETWEEN_POINTS = re.compile(r"[\s,;\[\](){}]*")


def _points(text: str) -> list[str] | None:
    """The lines of points such as ``(1, 2), (2, 4.1)``; None where the text is not made of them."""
    head = text.lstrip()[:12]
    if len(text) > 2_000_000 or not re.match(r"(?:[^\W\d_]\w{0,3}\s*[=:]?\s*)?[(\[{]", head):
        return None
    rows: list[tuple[str, list[str]]] = []
    end = 0
    for match in _POINT.finditer(text):
        parts = _parts(match["inside"])
        if parts is None or not _BETWEEN_POINTS.fullmatch(text[end : match.start()]):
            return None
        rows.append((match["label"] or "", parts))
        end = match.end()
    if not rows or not _BETWEEN_POINTS.fullmatch(text[end:]) or len({len(parts) for _, parts in rows}) > 1:
        return None
    labelled = all(label for label, _ in rows)
    return ["\t".join([label, *parts] if labelled else parts) for label, parts in rows]


_ASSIGNED = re.compile(
    r"\s*(?P<name>[^\W\d]\w{0,7})\s*[=:]\s*(?P<value>[^=:]*?)\s*(?:[,;]|\s|$)\s*(?=$|[^\W\d]\w{0,7}\s*[=:])"
)


def _assignments(text: str) -> list[str] | None:
    """The lines of ``x = 1, y = 2``, one reading each; None where the text is not made of them."""
    lines = [line for line in text[:200_000].split("\n") if line.strip()]
    if len(text) > 200_000 or len(lines) < 2 or lines[0].count("=") + lines[0].count(":") < 2:
        return None
    rows: list[list[str]] = []
    names: list[str] | None = None
    for line in lines:
        found = list(_ASSIGNED.finditer(line))
        own = [match["name"] for match in found]
        if (
            len(own) < 2
            or len(set(own)) < len(own)
            or own != (names or own)
            or "".join(match[0] for match in found) != line
        ):
            return None
        names = own
        rows.append([match["value"] for match in found])
    return ["\t".join(row) for row in [names or [], *rows]]


def _parts(inside: str) -> list[str] | None:
    """What stands inside the brackets of a point, two to four numbers."""
    for sign in (";", "|", ", ", ","):
        if sign in inside:
            parts = [part.strip() for part in inside.split(sign)]
            whole = 2 <= len(parts) <= 4 and all(any(letter.isdigit() for letter in part) for part in parts)
            return parts if whole else None
    return None
