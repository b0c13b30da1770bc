"""The decimal comma: the very last step of wording. Texts are made with a decimal point and turned into commas as a whole.

ISO 80000-1, section 7.3.2, allows either sign on the line.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Literal

Sign = Literal["point", "comma"]
Typed = re.Pattern[str] | None
"""What finds texts that a user typed."""
_WORD = re.compile(r"[\w.\u202f]*\d\.\d[\w.]*")
_NUMBER = re.compile(r"\d[\d\u202f]*\.\d+(?![\d.]*\.\d)")
_IN_LATEX = re.compile(r"(?<=\d)\.(?=\d)")


def in_comma(text: str, typed: Typed = None) -> str:
    """The text with a decimal comma in every number. What has two points is no number (a date, a version); what ``typed``
    matches was written by the user, and stays.

    >>> from ridge.core.wording.decimal_sign import in_comma
    >>> in_comma("At t = 8.5 h, h = −3.61 ± 0.05 m (1.2e-3), on 12.05.2026.")
    'At t = 8,5 h, h = −3,61 ± 0,05 m (1,2e-3), on 12.05.2026.'
    """
    if typed is None:
        return _WORD.sub(_turned, text)
    pieces, end = [], 0
    for kept in typed.finditer(text):
        pieces += [_WORD.sub(_turned, text[end : kept.start()]), kept[0]]
        end = kept.end()
    return "".join([*pieces, _WORD.sub(_turned, text[end:])])


def _turned(word: re.Match[str]) -> str:
    text = word[0].rstrip(".")
    known = _NUMBER.match(text)
    return word[0].replace(".", ",", 1) if known and text.count(".") == 1 else word[0]


def equation_in_comma(text: str, typed: Typed = None) -> str:
    """An equation that Ridge wrote, with decimal commas, and semicolons between the values of a function.

    >>> from ridge.core.wording.decimal_sign import equation_in_comma
    >>> equation_in_comma("y = 2.1·max(0.5, x)")
    'y = 2,1·max(0,5; x)'
    """
    return in_comma(text.replace(", ", "; "), typed)


def latex_in_comma(latex: str) -> str:
    r"""The same for LaTeX, where a bare comma would be followed by a space.

    >>> from ridge.core.wording.decimal_sign import latex_in_comma
    >>> latex_in_comma(r"U = 21.60\,S + 16.7")
    'U = 21{,}60\\,S + 16{,}7'
    """
    return _IN_LATEX.sub("{,}", latex.replace(", ", "; "))


def as_typed(texts: Iterable[str]) -> Typed:
    """What finds any of the texts, standing by itself, that hold something like a number with a point; None where none does.
    A text that is a number and nothing else cannot be told from one that was worded, and is written like these."""
    found = {text for text in texts if re.search(r"\d\.\d", text) and not _NUMBER.fullmatch(text.strip())}
    either = "|".join(map(re.escape, sorted(found, key=len, reverse=True)))
    return re.compile(rf"(?<![\w.])(?:{either})(?![\w.]*\w)") if found else None
