"""What each column of a table is proposed as, and why; what its names and numbers leave open is asked."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from ridge.exchange.tables.own_files import propose_own
from ridge.exchange.tables.result import Choices, Option, Question

MANY = 12
"""Columns beyond which those without a part are left out."""

_ERROR_NAME = re.compile(
    r"^(?:±|\+/?-)|^(?:u|σ|s|sigma)[_(]|^[Δδ∆]|(?i:\b(?:err|error|errors|uncert|uncertainty|uncertainties|unc|sd|s\.d\.|std|stdev|st\.? ?dev|se|s\.e\.|sem|"
    r"standard (?:error|deviation)|sigma|deviation|tolerance|accuracy)(?!\w)\.?)|(?i:[_ ](?:err|error|unc|sd|se|std)$)|^(?i:d|delta)_\w"
)
_WEIGHT_NAME = re.compile(r"^(?:w|wt|weights?|weighting)$", re.I)
_COUNT_NAME = re.compile(
    r"^(?:n|counts?|repeats?|replicates?|repetitions|times|occurrences|no\. of (?:repeats|readings|times))$", re.I
)
_SERIES_NAME = re.compile(
    r"^(?:series|group|set|data ?set|batch|run|trial|condition|treatment|category|class|sample set|curve)s?(?: (?:no\.?|name|id))?$",
    re.I,
)
_NUMBERING_NAME = re.compile(
    r"^(?:no|nr|num|number|#|№|index|idx|row|id|entry|obs|observation|point|reading|measurement|sample|trial|run|test|step|line|item|student|unnamed: ?0)s?\.?(?: ?(?:no|nr|number|id|#)\.?)?$", re.I
)  # fmt: skip
_INDEXED = re.compile(r"^(?P<stem>.*?[^\d\s_.₀-₉])[\s_.]?(?P<index>\d{1,3}|[₀-₉]{1,2}|[A-Ha-h])$")
_LETTERED = re.compile(r"^(?P<stem>.+[\s_.])(?P<index>[A-Za-z]|\d{1,3})$")


@dataclass(eq=False)
class Proposed:
    """A column as far as its role goes. ``counts``: whether it counts 1, 2, 3 …, ``consecutive``
    whether it counts on from any number; ``whole``: whether it holds nothing but
    whole numbers from 1 on; ``dotted``: whether a full stop stands
    behind each of them; ``words``: why it holds no numbers; ``group``: what stands over it and its neighbours, ``alone`` its
    name without that; ``labels``: its different words, where they are few and come again; ``own``: whether it is the
    uncertainty that stood in the cells of the column before it."""

    name: str
    symbol: str
    unit: str
    numbers: bool
    time: bool = False
    counts: bool = False
    consecutive: bool = False
    whole: bool = False
    labels: int = 0
    own: bool = False
    number_name: bool = False
    role: str = ""
    why: str = ""
    group: str = ""
    alone: str = ""
    dotted: bool = False
    words: str = ""

    @property
    def said(self) -> str:
        return f"{self.name} {self.symbol}".strip()

    @property
    def known(self) -> str:
        """What it is called by itself: not by what stands over its neighbours as well."""
        return (self.alone if self.group else self.name) or self.symbol or self.name

    def becomes(self, role: str, why: str) -> None:
        self.role, self.why = role, why


@dataclass
class Roles:
    """The columns with what they are proposed as, and what is asked."""

    columns: list[Proposed]
    questions: list[Question] = field(default_factory=list)


def propose(columns: list[Proposed], choices: Choices) -> Roles:
    """Give every column its role and the reason."""
    roles = Roles(columns)
    propose_own(columns)
    for column in columns:
        if not column.numbers and not column.role:
            series = _SERIES_NAME.match(column.known) and column.labels > 1
            column.becomes(
                "series" if series else "other", f"named “{column.known}”" if series else column.words or "holds words"
            )
    free = [column for column in columns if column.numbers and not column.role]
    _set_numbering(roles, free, choices)
    _set_named_parts(columns, free)
    measured = [column for column in columns if column.numbers and not column.role]
    if len(measured) == 1 and not any(column.time for column in measured):
        measured = _give_back(columns, measured)
    if not measured:
        measured = _give_back(columns, measured)
    if len(measured) == 1:
        _alone(roles, measured[0], choices)
    elif measured:
        _x_and_y(roles, measured, choices)
    _attach_uncertainties(columns)
    if len(columns) > MANY:
        for column in columns:
            if column.role == "other":
                column.becomes("skip", "has no part in x and y, of many columns")
    return roles


def _set_numbering(roles: Roles, free: list[Proposed], choices: Choices) -> None:
    """A column that counts its rows is a label; without a name it may be x as well."""
    for place, column in enumerate(free):
        if column.consecutive and not column.counts and _NUMBERING_NAME.match(column.known) and not column.unit:
            column.becomes("other", f"numbers the rows, as “{column.known}” says")
        if not column.counts:
            continue
        others = [other for other in free if other is not column and not other.own]
        if all(other.number_name for other in others):
            continue
        if column.dotted:
            column.becomes("other", "numbers the rows, as its full stops say")
            continue
        named = bool(_NUMBERING_NAME.match(column.known)) and not column.unit
        if named or (column.known in ("n", "i", "j", "k") and place == 0 and len(others) > 1):
            column.becomes("other", f"numbers the rows, as “{column.known}” says")
        elif not column.known and place == 0 and len(others) > 1:
            headed = any(other.known for other in others)
            if choices.numbering is None and not headed:
                at = roles.columns.index(column)
                first = Option("a label, which numbers the rows", {"numbering": True})
                roles.questions.append(
                    Question(
                        "numbering",
                        "What is the first column, 1, 2, 3 …?",
                        (first, Option("x", {"numbering": False})),
                        at,
                    )
                )
            if choices.numbering or (choices.numbering is None and headed):
                column.becomes("other", "numbers the rows")
        elif not column.known and place == 0 and others and any(other.known for other in others):
            column.becomes("other", "numbers the rows")


def _set_named_parts(columns: list[Proposed], free: list[Proposed]) -> None:
    """Uncertainties, weights, counts and series by their names."""
    symbols = {column.symbol: column for column in columns if column.symbol}
    for column in free:
        if column.role:
            continue
        known, place = column.known, columns.index(column)
        if column.own:
            column.becomes("error", "stands behind ± in the cells")
        elif (
            _ERROR_NAME.search(known)
            and not _is_quantity(column, symbols)
            and (place > 0 or _named_after(column, symbols) or known.startswith("±"))
        ) or (column.symbol and _ERROR_NAME.search(column.symbol) and not _is_quantity(column, symbols)):
            column.becomes("error", f"named “{column.said}”")
        elif _WEIGHT_NAME.match(known) and not column.unit:
            column.becomes("weight", f"named “{known}”")
        elif _COUNT_NAME.match(known) and column.whole and not column.unit and not column.counts:
            column.becomes("count", f"named “{known}”")
        elif _SERIES_NAME.match(known) and column.whole and column.labels > 1:
            column.becomes("series", f"named “{known}”")


def _is_quantity(column: Proposed, symbols: dict[str, Proposed]) -> bool:
    """Whether ``ΔT`` or ``s_x`` is a quantity of its own: nothing in the table is called T."""
    for text in (column.symbol, column.name):
        if text.startswith(("Δ", "∆", "δ")) and len(text) > 1:
            return text[1:].strip("_ ()") not in symbols
        if re.match(r"^(?:s|d|u|σ)_\w+$", text):
            return text.partition("_")[2] not in symbols and text[0] in "sd"
    return False


def _named_after(column: Proposed, symbols: dict[str, Proposed]) -> Proposed | None:
    """The column that an uncertainty names: ``u_t``, ``Δt``, ``± t``, ``sd of t``, ``t error``."""
    words = re.findall(r"[^\W_]+", f"{column.name} {column.symbol}".replace("Δ", " ").replace("∆", " "))
    for word in words:
        if word in symbols and symbols[word] is not column:
            return symbols[word]
    said = column.name.lower()
    held = [other for other in symbols.values() if other is not column]
    return next((other for other in held if other.name and other.name.lower() in said), None)


def _give_back(columns: list[Proposed], measured: list[Proposed]) -> list[Proposed]:
    """With a single column of readings, a weight, a count or an uncertainty by name only is what was measured as well."""
    for role in ("count", "weight", "error"):
        for column in columns:
            if column.role == role and not column.own:
                column.becomes("", "")
                return [one for one in columns if one in measured or one is column]
    return measured


def _alone(roles: Roles, column: Proposed, choices: Choices) -> None:
    """A single column of readings."""
    if column.time:
        column.becomes("x", "the times; y is still to come")
        return
    kinds = {
        "rows": ("y", "over the number of its row"),
        "y": ("y", "the only column of numbers"),
        "x": ("x", "the only column of numbers"),
    }
    role, why = kinds[choices.alone or "y"]
    column.becomes(role, why)
    if choices.alone is None:
        options = (
            Option("y, over the number of its row 1, 2, 3 …", {"alone": "rows"}),
            Option("x, whose y is still to come", {"alone": "x"}),
            Option("y of unknowns, whose x is asked for", {"alone": "y"}),
        )
        said = f"“{column.said}”" if column.said else "the only column of numbers"
        roles.questions.append(Question("alone", f"What is {said}?", options, roles.columns.index(column)))


def _x_and_y(roles: Roles, measured: list[Proposed], choices: Choices) -> None:
    if _pairs(measured):
        return
    if _named_alike(measured) and choices.alone != "x":
        # ``Trial 1``, ``Trial 2``: none of them is x.
        for column in measured:
            column.becomes("y", "one of several named alike")
        if choices.alone is None:
            options = (
                Option("y each, over the number of the row 1, 2, 3 …", {"alone": "rows"}),
                Option(f"x is {measured[0].said}, the rest y", {"alone": "x"}),
            )
            roles.questions.append(Question("alone", f"What are {measured[0].said} to {measured[-1].said}?", options))
        return
    by_name = {column.known.lower(): column for column in measured}
    x = by_name.get("x") if by_name.get("y") not in (None, by_name.get("x")) else None
    x = x or next((column for column in measured if column.time), None) or measured[0]
    x.becomes("x", "times" if x.time else "named “x”" if x.known.lower() == "x" else "the first column of numbers")
    ys = [column for column in measured if column is not x]
    ys.sort(key=lambda column: column.known.lower() != "y")
    if len(ys) == 1:
        ys[0].becomes(
            "y",
            "named “y”"
            if ys[0].known.lower() == "y"
            else "the next column of numbers"
            if x is measured[0]
            else "the other column of numbers",
        )
        return
    reason = _alike(ys)
    if reason or choices.several == "series":
        for column in ys:
            column.becomes("y", reason or "a series of its own")
        return
    ys[0].becomes("y", "the next column of numbers")
    units = {column.unit for column in ys}
    for column in ys[1:]:
        column.becomes(
            "other",
            f"is in {column.unit}, y in {ys[0].unit}"
            if column.unit and ys[0].unit and column.unit != ys[0].unit
            else "kept beside x and y",
        )
    open_ = any(question.about == "numbering" for question in roles.questions)
    if len(units) == 1 and choices.several is None and not open_ and not any(column.time for column in ys):
        named = [column.said or f"column {roles.columns.index(column) + 1}" for column in ys]
        shown = f"{', '.join(named[:-1])} and {named[-1]}" if len(named) < 5 else f"{named[0]} to {named[-1]}"
        options = (
            Option(f"{len(ys)} series of one y", {"several": "series"}),
            Option(f"y is {named[0]}, the others are labels", {"several": "first"}),
        )
        roles.questions.append(Question("several", f"What are {shown}?", options))


def _alike(ys: Sequence[Proposed]) -> str:
    """Why several columns are series of one y; empty where nothing says so."""
    if len({column.unit for column in ys}) > 1:
        return ""
    if all(column.group for column in ys) and len({column.group for column in ys}) == len(ys):
        return "one of several under a heading each"
    if all(column.number_name for column in ys):
        return "one of several named by numbers"
    if _named_alike(ys):
        return "one of several named alike"
    if ys[0].unit and all(column.name or column.symbol for column in ys):
        words = [set(re.findall(r"\w+", column.name.lower())) for column in ys]
        if set.intersection(*words) or len({column.symbol for column in ys}) == 1:
            return "one of several named alike"
        return "in the same unit as the others"
    return ""


def _named_alike(columns: Sequence[Proposed]) -> bool:
    """Whether all have the same name but for a number or a letter at its end."""
    for pattern in (_INDEXED, _LETTERED):
        found = [pattern.match(column.known) for column in columns]
        if len(columns) > 1 and all(found) and len({match["stem"].strip().lower() for match in found if match}) == 1:
            return True
    return False


def _pairs(measured: list[Proposed]) -> bool:
    """x and y in pairs: the heading of x comes again, or its name with another number (``x1, y1, x2, y2``)."""
    first = measured[0]
    if not first.known or len(measured) < 4:
        return False
    stem = _stem(first.known)
    again = [
        c
        for c in measured
        if (c.known, c.symbol, c.unit) == (first.known, first.symbol, first.unit)
        or (stem and _stem(c.known) == stem and c.unit == first.unit)
    ]
    rest = [column for column in measured if column not in again]
    if len(again) < 2 or len(rest) != len(again):
        return False
    for column in again:
        column.becomes("x", "x of its pair")
    for column in rest:
        column.becomes("y", "y of its pair")
    return True


def _stem(known: str) -> str:
    match = re.match(r"^(?P<stem>.*?[^\d\s_.₀-₉])[\s_.]?(?:\d{1,3}|[₀-₉]{1,2}|(?<=[\s_])[A-Ha-h])$", known)
    return match["stem"].lower() if match else ""


def _attach_uncertainties(columns: list[Proposed]) -> None:
    """An uncertainty belongs to the column that it names, else to the one before it."""
    symbols = {column.symbol: column for column in columns if column.symbol and column.role != "error"}
    before: Proposed | None = None
    held: set[str] = set()
    several = sum(column.role == "y" for column in columns) > 1
    for column in columns:
        if column.role in ("x", "y"):
            before = column
        if column.role != "error":
            continue
        named = None if column.own else _named_after(column, symbols)
        target = named if named is not None and named.role in ("x", "y") else before
        if named is None and before is None:
            target = next((other for other in columns if other.role == "y"), None)
        role = f"{target.role}_error" if target is not None else "other"
        if role in held and not several:
            column.becomes("other", "a second uncertainty")
        else:
            column.becomes(role, f"uncertainty: {column.why}")
            held.add(role)
