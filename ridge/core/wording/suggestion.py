"""Why a model is suggested, or not, in a sentence."""

from __future__ import annotations

from ridge.core.judging.ranking import Ranked
from ridge.core.numerals import count_word, join, significant


def reason(ranked: Ranked) -> str:
    """Its place among the models in words: how many parameters, what they leave in the residuals, distance to the best."""
    if ranked.fit is None:
        return ranked.refusal
    statistics = ranked.fit.statistics
    if statistics.degrees_of_freedom == 0:
        return "It has as many parameters as there are readings, so nothing tells how good it is."
    if statistics.exact:
        return "It goes through every reading exactly."
    return f"{ranked.parameters} parameter{'' if ranked.parameters == 1 else 's'}; {_verdict(ranked)}."


def _verdict(ranked: Ranked) -> str:
    if ranked.no_better_than_constant:
        return "not significantly better than a constant when so many models are tried"
    if ranked.surpassed:
        return "other models are significantly better"
    if ranked.patterned:
        return "its residuals still show a pattern"
    if ranked.difference is None:
        return "too few readings to compare it with the others"
    if ranked.difference == 0:
        return "the lowest AICc"
    above = f"AICc {significant(ranked.difference, 2).text} above the lowest"
    return f"{above}, which says little" if ranked.close else above


def word_bends(count: int, n: int) -> str:
    """What the eye should see in the course of the readings; empty where there are too few to tell."""
    if n < 5:
        return ""
    if count == 0:
        return "No curvature is seen: a line may do."
    if count >= 4:
        return "Four bends or more are seen: a cycle, or a curve that polynomials follow badly."
    usual = {
        1: "a quadratic, an exponential or a logarithm",
        2: "a cubic, a logistic or a sinusoid",
        3: "a sinusoid or a peak",
    }
    return f"{count_word(count, capital=True)} bend{'' if count == 1 else 's'} {'is' if count == 1 else 'are'} seen: {usual[count]} may do."


def word_suggested(names: list[str], *, few: bool = False) -> str:
    """Which models fit well; ``names`` of those within ``CLOSE`` of the best, with no pattern in the residuals.

    ``few``: whether there are too few readings for AICc.
    """
    if few:
        return "Too few readings to compare models; they are in the order of their leave-one-out error."
    if names == ["constant"]:
        return "No model here is significantly better than a constant."
    if not names:
        return "Each of these leaves a pattern in its residuals, or there are too few readings to judge."
    if len(names) == 1:
        return f"The {names[0]} is the best of these by AICc, and no pattern was found in its residuals."
    return f"These fit about equally well, with no pattern found in the residuals: {join(names)}."
