"""Text to tree. What a user may write, and what is said where it cannot be read."""

from __future__ import annotations

import difflib
import re
import unicodedata
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Any, NoReturn

from lark import Lark, Token, UnexpectedCharacters, UnexpectedInput, UnexpectedToken, v_args
from lark.exceptions import VisitError
from lark.visitors import Transformer_NonRecursive

from ridge.core.errors import FormulaError
from ridge.core.formula.functions import ALIASES, FUNCTIONS, IN_DEGREES
from ridge.core.formula.grammar import GRAMMAR, LETTER, NAME, RAISED, SUBSCRIPTS
from ridge.core.formula.separators import with_points
from ridge.core.formula.tree import (
    Call,
    Choice,
    Comparison,
    Constant,
    Name,
    Negative,
    Node,
    Number,
    Operation,
    children,
    number,
    substitute,
)

LONGEST = 500
DEEPEST = 100
LONGEST_CHAIN = 150
LARGEST_CALLED = 1500
"""Parts that a formula may have once the curves that it calls are written out."""

_SAME = str.maketrans("−–×·⋅∙÷[]{}µ", "--****/()()μ")
_RAISED = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻", "0123456789-")
_LOWERED = str.maketrans("₀₁₂₃₄₅₆₇₈₉", "0123456789")
_COMPARE = {"==": "=", "≤": "<=", "≥": ">=", "≠": "!="}
_LEFT_SIDE = re.compile(rf"\s*(?:{NAME})\s*(?:\(\s*({NAME})\s*\)\s*)?=(?!=)")
_LETTER = re.compile(rf"[{LETTER}]")
_ONE_LETTER = re.compile(rf"[{LETTER}](?:_?[0-9]+|[{SUBSCRIPTS}]+|_[{LETTER}0-9]+)?")
_DECIMAL_COMMA = re.compile(r"[0-9],[0-9]")

_POSSIBLE = {
    "NUMBER": "a number", "NAME": "a name", "LPAR": "(", "RPAR": ")", "FUNCTION": "a function", "PLUS": "+", "MINUS": "−",
    "TIMES": "×", "OVER": "/", "_HAT": "^", "COMMA": "a comma", "COMPARE": "a comparison such as <",
    "$END": "the end", "RAISED": "a raised number",
}  # fmt: skip


@dataclass(frozen=True)
class Curve:
    """A curve with all its numbers, as a tree in its variable."""

    tree: Node
    variable: str


@dataclass(frozen=True)
class Parsed:
    """A formula as a tree. ``names`` in order of first appearance, the independent variable left out."""

    tree: Node
    names: tuple[str, ...]
    variable: str


@lru_cache(maxsize=1)
def _parser() -> Lark:
    grammar = GRAMMAR.replace('| "="', '| "=" | "≤" | "≥" | "≠"')
    return Lark(grammar, parser="lalr", lexer="basic", maybe_placeholders=False)


def same_name(name: str) -> str:
    """The form in which ``x0``, ``x_0`` and ``x₀`` are one name."""
    return name.translate(_LOWERED).replace("_", "")


@v_args(inline=True)
class _Build(Transformer_NonRecursive[Any, Node]):
    """Builds the tree bottom-up, one call a rule."""

    def __init__(self, variable: str, degrees: bool, curves: Mapping[str, Curve | None]) -> None:
        super().__init__()
        self.variable, self.degrees, self.curves = variable, degrees, curves
        self.spelling: dict[str, str] = {same_name(variable): variable}
        self.places: dict[str, int] = {}
        """Where each name stands first, as it is spelled there."""

    def NUMBER(self, token: Token) -> Node:
        value = float(token)
        if value == float("inf"):
            raise FormulaError(
                f"{token} is too large to compute with.",
                token.start_pos or 0,
                len(token),
                str(token),
                "a smaller number",
            )
        return Number(value, str(token))

    def NAME(self, token: Token) -> Node:
        name = str(token)
        if name != self.variable and name in ("e", "pi", "π"):
            return Constant("e" if name == "e" else "pi")
        if name == "log":
            _ambiguous_log(token.start_pos or 0)
        place = token.start_pos or 0
        spelled = self.spelling.setdefault(same_name(name), name)
        self.places[spelled] = min(place, self.places.get(spelled, place))
        return Name(spelled)

    def sum(self, left: Node, sign: Token, right: Node) -> Node:
        return Operation(str(sign), left, right)

    product = sum

    def implicit(self, left: Node, right: Node) -> Node:
        return Operation("*", left, right)

    def minus(self, _: Token, part: Node) -> Node:
        return Negative(part)

    def plus(self, _: Token, part: Node) -> Node:
        return part

    def hat(self, base: Node, exponent: Node) -> Node:
        return Operation("^", base, exponent)

    def superscript(self, base: Node, raised: Token) -> Node:
        return Operation("^", base, _exponent(raised))

    def bracket(self, inner: Node) -> Node:
        return inner

    @v_args(inline=False)
    def arguments(self, parts: list[Node]) -> Any:
        return parts

    def call(self, function: Token, arguments: list[Node]) -> Node:
        if str(function) in _CURVE_LETTERS:
            return self._curve(_CURVE_LETTERS[str(function)], function.start_pos or 0, arguments)
        name = ALIASES.get(str(function), str(function))
        wanted = len(FUNCTIONS[name].derivatives)
        start = function.start_pos or 0
        if len(arguments) != wanted and not (name in ("min", "max") and len(arguments) > 1):
            needs = "one value" if wanted == 1 else "two values, with a comma or a semicolon between them"
            raise FormulaError(
                f"{name} takes {needs}; {len(arguments)} {'is' if len(arguments) == 1 else 'are'} given.",
                start, len(function), str(function), needs,
            )  # fmt: skip
        if self.degrees:
            name = IN_DEGREES.get(name, name)
        if len(arguments) == 1:
            return Call(name, (arguments[0],))
        result = arguments[0]
        for argument in arguments[1:]:
            result = Call(name, (result, argument))
        return result

    def _curve(self, letter: str, start: int, arguments: list[Node]) -> Node:
        """The value of another curve at the argument."""
        if len(arguments) != 1:
            raise FormulaError(f"{letter} takes one value; {len(arguments)} are given.", start, 1, letter, "one value")
        curve = self.curves[letter]
        if curve is None:
            return Call(letter, (arguments[0],))
        written_out = substitute(curve.tree, {curve.variable: arguments[0]})
        if _size(written_out) > LARGEST_CALLED:
            raise FormulaError(
                f"Written out, the calls of {letter} make the formula too long. Call it fewer times inside itself.",
                start, 1, letter,
            )  # fmt: skip
        return written_out

    def call_to_power(self, function: Token, exponent: Node | Token, arguments: list[Node]) -> Node:
        raised = _exponent(exponent) if isinstance(exponent, Token) else exponent
        if isinstance(raised, Negative):
            _ambiguous_inverse(str(function), function.start_pos or 0)
        return Operation("^", self.call(function, arguments), raised)

    def comparison(self, left: Node, sign: Token, right: Node) -> Node:
        return Comparison(_COMPARE.get(str(sign), str(sign)), left, right)

    def choice(self, _: Token, condition: Comparison, yes: Node, no: Node) -> Node:
        return Choice(condition, yes, no)


def _exponent(raised: Token) -> Node:
    text = str(raised).translate(_RAISED)
    if not re.fullmatch("-?[0-9]{1,3}", text):
        raise FormulaError(
            "A raised number is digits, with a minus in front at most.",
            raised.start_pos or 0,
            len(raised),
            str(raised),
            "a raised number such as ² or ⁻¹",
        )
    return Negative(number(int(text[1:]))) if text.startswith("-") else number(int(text))


def _ambiguous_log(position: int) -> NoReturn:
    raise FormulaError(
        "'log' is written for the natural logarithm and for that to base 10. Write ln for the natural one, "
        "log10 or log2 for those to base 10 or 2.",
        position, 3, "log", "ln, log10 or log2",
    )  # fmt: skip


def _ambiguous_inverse(function: str, position: int) -> NoReturn:
    arc = f"a{function}" if f"a{function}" in FUNCTIONS else ""
    inverse = f"{arc}(…) for the angle, or " if arc else ""
    raise FormulaError(
        f"{function} to the power −1 can mean two things. Write {inverse}1/{function}(…) for one over it.",
        position, len(function), function, f"{inverse}1/{function}(…)",
    )  # fmt: skip


@lru_cache(maxsize=256)
def parse(
    text: str,
    variable: str = "x",
    *,
    degrees: bool = False,
    known: tuple[str, ...] | None = None,
    named_on_the_left: bool = False,
    curves: tuple[tuple[str, Curve | None], ...] = (),
) -> Parsed:
    """Read a formula.

    Parameters
    ----------
    text : str
        For instance ``p*exp(-q*t)+r``; a left side such as ``y =`` is passed over. Decimal commas as in ``separators``.
    variable : str
        Name of the independent variable.
    degrees : bool
        Whether sin, cos, tan and their inverses count angles in degrees instead of radians.
    known : tuple of str, optional
        The only names allowed besides the variable. Left out, every other name is a parameter.
    named_on_the_left : bool
        Whether ``y(t) =`` says that t stands for the variable, whatever that is called.
    curves : pairs of a capital letter and a Curve
        What ``A(…)`` stands for instead of a product; with None for the curve the call stays as it is written.

    Raises
    ------
    FormulaError
        With position, what was found and what would be possible.

    >>> from ridge.core.formula import parse
    >>> parse("a*exp(-k*x) + c").names
    ('a', 'k', 'c')
    """
    if len(text) > LONGEST:
        raise FormulaError(
            f"The formula has {len(text)} characters; {LONGEST} at most. Shorten it, or split it into columns.",
            LONGEST, len(text) - LONGEST,
        )  # fmt: skip
    prepared, also = _prepared(text)
    prepared = with_points(prepared)
    prepared = _with_curves(prepared, [letter for letter, _ in curves])
    if not prepared.strip():
        raise FormulaError("There is no formula yet. Write one in " + variable + ", such as a*x + b.", 0, 0)
    _check_letters(prepared, text)
    _check_depth(prepared)
    build = _Build(variable, degrees, dict(curves))
    if named_on_the_left and also:
        build.spelling[same_name(also)] = variable
    try:
        _check_calls(list(_parser().lex(prepared)), variable)
        tree = build.transform(_parser().parse(prepared))
    except UnexpectedInput as error:
        _explain(error, prepared, text)
    except VisitError as error:
        if isinstance(error.orig_exc, FormulaError):
            raise error.orig_exc from None
        raise
    # The bare name or number that is the whole formula comes back as it is.
    _check_tree_depth(tree)
    places = {name: place for name, place in build.places.items() if name != variable}
    if known is not None:
        _check_known(places, known, variable)
    return Parsed(tree, tuple(sorted(places, key=lambda name: places[name])), variable)


def _prepared(text: str) -> tuple[str, str]:
    """The text with one sign for each meaning, a left side blanked so that positions stay those of the text as typed; and
    what stands in the brackets of ``y(t) =``."""
    left = _LEFT_SIDE.match(text)
    prepared = text.translate(_SAME)
    if not left:
        return prepared, ""
    return " " * left.end() + prepared[left.end() :], left.group(1) or ""


_CURVE_LETTERS = {chr(0xE000 + place): letter for place, letter in enumerate("ABCDEFGHIJKLMNOPQRSTUVWXYZ")}


def _size(tree: Node) -> int:
    """How many parts a tree has when it is written out: a part that stands in several places is counted at each, but looked
    at once, since calls inside calls double it again and again."""
    sizes: dict[Node, int] = {}
    waiting = [tree]
    while waiting:
        node = waiting[-1]
        missing = [part for part in children(node) if part not in sizes]
        if missing:
            waiting += missing
        else:
            sizes[node] = 1 + sum(sizes[part] for part in children(node))
            waiting.pop()
    return sizes[tree]


def _with_curves(prepared: str, letters: Iterable[str]) -> str:
    """The text with calls of these curves marked, letter for letter, so that every place stays."""
    for letter in letters:
        prepared = re.sub(
            rf"(?<![{LETTER}0-9_{SUBSCRIPTS}]){letter}(?=\s*\()", chr(0xE000 + ord(letter) - 65), prepared
        )
    return prepared


def called_curves(text: str, letters: Iterable[str], *, alone: bool = False) -> tuple[str, ...]:
    """Those of some capital letters that a formula calls as functions: ``A(x)``, and nowhere A as a parameter of its own.
    ``alone``: whether a letter by itself stands for the curve as well.
    """
    prepared = _prepared(text)[0]
    apart = rf"(?<![{LETTER}0-9_{SUBSCRIPTS}])"
    return tuple(
        letter
        for letter in letters
        if re.search(rf"{apart}{letter}\s*\(", prepared)
        and (alone or not re.search(rf"{apart}{letter}(?![{LETTER}0-9_{SUBSCRIPTS}]|\s*\()", prepared))
    )


def tokens_of(text: str) -> list[Token]:
    """The tokens of a formula, with their places in the text as typed. Raises FormulaError for a sign that no formula has."""
    prepared = with_points(_prepared(text)[0])
    try:
        return list(_parser().lex(prepared))
    except UnexpectedInput as error:
        _explain(error, prepared, text)


def rename(text: str, old: str, new: str) -> str:
    """The text of a formula that can be read with one name in place of another."""
    for token in reversed(tokens_of(text)):
        if token.type == "NAME" and same_name(str(token)) == same_name(old):
            start = token.start_pos or 0
            text = text[:start] + new + text[start + len(token) :]
    return text


def _check_letters(prepared: str, text: str) -> None:
    for position, letter in enumerate(prepared):
        if letter.isalpha() and not _LETTER.fullmatch(letter) and not re.fullmatch(f"[{RAISED}{SUBSCRIPTS}]", letter):
            name = unicodedata.name(letter, "an unknown letter").lower()
            plain = unicodedata.normalize("NFKC", letter)
            looks = f" Type '{plain}' instead." if plain != letter and _LETTER.fullmatch(plain[:1]) else ""
            raise FormulaError(
                f"'{text[position]}' is a letter that formulas do not use ({name}); it may look like another one."
                f"{looks or ' Type it again with a Latin or Greek letter.'}",
                position, 1, text[position], "a Latin or Greek letter",
            )  # fmt: skip


def _check_depth(prepared: str) -> None:
    """Brackets that close too early, are left open, or go too deep; said before parsing, where it is clearest."""
    opened: list[int] = []
    for position, letter in enumerate(prepared):
        if letter == "(":
            opened.append(position)
            if len(opened) > DEEPEST:
                raise FormulaError(
                    f"More than {DEEPEST} brackets stand inside one another. Simplify the formula.", position, 1, "("
                )
        elif letter == ")":
            if not opened:
                raise FormulaError(
                    "This bracket closes nothing: remove it, or open one before it.", position, 1, ")", "no bracket"
                )
            opened.pop()
    if opened:
        raise FormulaError("This bracket is never closed: add a ')'.", opened[-1], 1, "(", "a ')' further on")


def _check_calls(tokens: list[Token], variable: str) -> None:
    """Names right before a bracket that are no function: a slip of the pen, or a product where one letter stands."""
    for token, following in pairwise(tokens):
        if token.type != "NAME" or following.type != "LPAR":
            continue
        name, start = str(token), token.start_pos or 0
        if name in (variable, "pi", "e", "π"):
            continue
        if name == "log":
            _ambiguous_log(start)
        if _ONE_LETTER.fullmatch(name):
            continue
        near = difflib.get_close_matches(name.lower(), [*FUNCTIONS, *ALIASES], n=1, cutoff=0.6)
        meant = f"Did you mean {near[0]}? " if near else ""
        raise FormulaError(
            f"'{name}' is not a function that formulas know. {meant}For a product write {name}*(…).",
            start, len(name), name, near[0] if near else "a function, or * between name and bracket",
        )  # fmt: skip


def _check_tree_depth(tree: Node) -> None:
    waiting = [(tree, 1)]
    while waiting:
        node, depth = waiting.pop()
        if depth > LONGEST_CHAIN:
            raise FormulaError(
                f"More than {LONGEST_CHAIN} operations follow one another. Simplify the formula, or split it into columns.",
                0, 0,
            )  # fmt: skip
        waiting.extend((child, depth + 1) for child in children(node))


def _check_known(places: dict[str, int], known: tuple[str, ...], variable: str) -> None:
    allowed = {same_name(name) for name in known}
    for name, place in places.items():
        if same_name(name) not in allowed:
            near = difflib.get_close_matches(name, [*known, variable, *FUNCTIONS], n=1, cutoff=0.5)
            meant = f"Did you mean {near[0]}?" if near else f"Known here: {', '.join([variable, *known])}."
            raise FormulaError(
                f"'{name}' is not defined. {meant}", place, len(name), name,
                near[0] if near else "a known name",
            )  # fmt: skip


def _explain(error: UnexpectedInput, prepared: str, text: str) -> NoReturn:
    """The parser's error in the words of somebody who writes formulas."""
    position = min(error.pos_in_stream if error.pos_in_stream is not None else len(text), len(text))
    token = getattr(error, "token", None)
    if isinstance(error, UnexpectedToken) and isinstance(token, Token) and token.type == "$END":
        position = len(text.rstrip())
    before = prepared[:position].rstrip()
    found = ""
    if isinstance(error, UnexpectedCharacters):
        found = text[position : position + 1]
        raise FormulaError(
            f"'{found}' has no meaning in a formula. Remove it.",
            position,
            1,
            found,
            "letters, numbers, + − × / ^ ( )",
        ) from None
    if isinstance(token, Token) and token.type != "$END":
        found = text[position : position + len(token)]
    accepted: set[str] = set(getattr(error, "expected", ()) or ())
    possible = _possible(accepted)
    if found == "," and _DECIMAL_COMMA.match(prepared, position - 1):
        raise FormulaError(
            "A decimal sign is written as a point in formulas: 0.5, not 0,5.", position, 1, ",", "a point"
        ) from None
    last = re.search(rf"({NAME})$", before)
    if last and last.group(1) in (*FUNCTIONS, *ALIASES, "if"):
        name = last.group(1)
        if found in ("^", "**") or before.endswith("^"):
            _ambiguous_inverse(name, last.start(1))
        raise FormulaError(
            f"{name} needs brackets around its argument: write {name}(x).", position, max(1, len(found)), found, "("
        ) from None
    raised = re.search(rf"({NAME})\s*(\^|\*\*)$", before)
    if raised and found in ("-", "−") and raised.group(1) in FUNCTIONS:
        _ambiguous_inverse(raised.group(1), raised.start(1))
    if not found:
        raise FormulaError(f"The formula ends too early: {possible} is missing.", position, 0, "", possible) from None
    if token is not None and token.type == "NUMBER" and before and before[-1] not in "+-*/^(,<>=":
        raise FormulaError(
            f"A sign is missing before {found}: write * for a product.", position, len(found), found, "+ − × / ^"
        ) from None
    if token is not None and token.type == "COMPARE":
        raise FormulaError(
            f"'{found}' belongs inside if(…): if(x {found} 2, a, b).", position, len(found), found, possible
        ) from None
    if found == "," and re.search(r"(?:^|[^\w])if\s*\([^<>=!≤≥≠]*$", before):
        raise FormulaError(
            "if needs a comparison first: if(x < 2, a, b).", position, 1, ",", "a comparison such as <"
        ) from None
    if found == ",":
        raise FormulaError(
            "A comma only stands between the values of a function. A decimal sign is written as a point.",
            position, 1, found, possible,
        )  # fmt: skip
    raise FormulaError(f"'{found}' cannot stand here; expected: {possible}.", position, len(found), found, possible)


def _possible(accepted: set[str]) -> str:
    if accepted >= {"NUMBER", "NAME"}:
        return "a number, a name or a bracket"
    words = [_POSSIBLE[name] for name in sorted(accepted & set(_POSSIBLE)) if name not in ("$END", "_HAT", "RAISED")]
    if "RPAR" in accepted and "PLUS" in accepted:
        return "+ − × / ^ or )"
    if "PLUS" in accepted:
        return "+ − × / ^"
    return " or ".join(words) or "something else"
