"""Names of people: in one form, without invisible signs, and not to be mistaken for another's."""

from __future__ import annotations

import unicodedata
from collections.abc import Iterable
from functools import lru_cache

from confusable_homoglyphs import categories, confusables

INVISIBLE = ("Cc", "Cf", "Cn", "Co", "Cs", "Zl", "Zp")
"""Categories of signs that are not seen or change the direction of others."""


TOGETHER = (
    {"HAN", "HIRAGANA", "KATAKANA", "LATIN"},
    {"HAN", "HANGUL", "LATIN"},
    {"HAN", "BOPOMOFO", "LATIN"},
)
"""Scripts that are written together in one word (Unicode Technical Standard 39, section 5.2, "highly restrictive")."""


class UnsuitableName(Exception):
    """The message says what is wrong and what to do."""


def plain_name(text: str) -> str:
    """Return a name in normal form (NFKC), spaces reduced to single ones.

    Raises UnsuitableName for invisible and direction-changing signs, and for words in scripts that are not written together.

    >>> plain_name("  Anna   Löw ")
    'Anna Löw'
    """
    if any(unicodedata.category(sign) in INVISIBLE for sign in text.strip()):
        raise UnsuitableName("This name has invisible signs. Type it anew.")
    name = " ".join(unicodedata.normalize("NFKC", text).split())
    if not any(unicodedata.category(sign)[0] in "LN" for sign in name):
        raise UnsuitableName("A name needs a letter or a digit.")
    for word in name.split():
        scripts = {categories.alias(sign) for sign in word} - {"COMMON", "INHERITED"}
        if len(scripts) > 1 and not any(scripts <= together for together in TOGETHER):
            raise UnsuitableName(
                "This name mixes scripts within a word, so it can be mistaken for another. Use one script."
            )
    return name


@lru_cache(maxsize=4096)
def skeleton(name: str) -> str:
    """Return what names that look alike have in common (Unicode Technical Standard 39, section 4, "Confusable Detection").

    Capital and small letters of one name are not alike in this sense: compare them without regard to case besides.

    >>> skeleton("АННА") == skeleton("AHHA"), skeleton("Tarn1") == skeleton("Tarnl"), skeleton("Anna") == skeleton("Anne")
    (True, True, False)
    """
    letters = unicodedata.normalize("NFD", name)
    return unicodedata.normalize("NFD", "".join(_prototype(letter) for letter in letters)).replace(" ", "")


def looks_like(name: str, others: Iterable[str]) -> str | None:
    """Return the first of the other names that this one can be mistaken for."""
    own, folded = skeleton(name), name.casefold()
    return next((other for other in others if skeleton(other) == own or other.casefold() == folded), None)


@lru_cache(maxsize=4096)
def _prototype(letter: str) -> str:
    """The first of the letters that look like this one, in the order of Unicode, so that those of ASCII stand for all."""
    alike, new = {letter}, [letter]
    while new:
        found = {str(one["c"]) for one in confusables.confusables_data.get(new.pop(), ()) if len(one["c"]) == 1} - alike
        alike |= found
        new += found
    return min(alike)
