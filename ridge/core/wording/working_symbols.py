"""How a working writes what its steps name: sums, means, matrices, the parameters of the course."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ridge.core.decimal_sign import in_sign
from ridge.core.formula.tree import Call, Name, Negative, Node, Number, Operation
from ridge.core.formula.writing import number_to_latex, rank, symbol_to_latex, to_latex, to_print
from ridge.core.numerals import NumberText
from ridge.core.results.steps import parameter_name
from ridge.core.wording.naming import Naming, symbol_latex

_LOWERED = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")
_FIXED: Mapping[str, tuple[str, str]] = {
    "residual": ("r", "r"), "w": ("w", "w"), "rss": ("RSS", r"\mathrm{RSS}"), "tss": ("TSS", r"\mathrm{TSS}"),
    "tss_null": ("TSS", r"\mathrm{TSS}"), "nu": ("ν", r"\nu"), "r_squared": ("R²", "R^{2}"), "se_x": ("s(x)", "s_{x}"),
    "se_value": ("s(ŷ)", r"s_{\hat y}"), "standard_error": ("standard error", r"\text{standard error}"),
    "relative_error": ("relative error", r"\text{relative error}"), "estimate": ("value", r"\text{value}"),
    "low": ("lower limit", r"\text{lower limit}"), "high": ("upper limit", r"\text{upper limit}"),
    "low_new": ("lower limit, new reading", r"\text{lower limit, new reading}"),
    "high_new": ("upper limit, new reading", r"\text{upper limit, new reading}"),
    "half": ("half-width", r"\text{half-width}"), "critical": ("t", "t"), "gradient": ("slope there", r"\text{slope there}"),
    "discriminant": ("D", "D"), "diagonal": ("d", "d"), "divisor": ("divisor", r"\text{divisor}"), "one": ("1", "1"),
    "piece": ("piece", r"\text{piece}"), "width": ("h", "h"), "piece_slope": ("slope", r"\text{slope}"),
    "right": ("right side", r"\text{right side}"), "normal_right": ("right side", r"\text{right side}"),
    "distance_product": ("product of distances", r"\text{product of distances}"),
    "lagrange_weight": ("a", "a"), "row_number": ("row", r"\text{row}"), "below": ("below", r"\text{below}"),
    "diagonal_entry": ("diagonal", r"\text{diagonal}"), "above": ("above", r"\text{above}"),
    "at_hand": ("at hand", r"\text{at hand}"), "one_step": ("one step", r"\text{one step}"),
    "rss_down": ("RSS, one step less", r"\text{RSS, one step less}"), "rss_up": ("RSS, one step more", r"\text{RSS, one step more}"),
    "difference": ("difference", r"\text{difference}"), "share": ("q", "q"), "right side": ("right side", r"\text{right side}"),
    "exponent": ("", ""),
}  # fmt: skip
_MATRICES: Mapping[str, tuple[str, str]] = {
    "A": ("A", r"\mathbf{A}"), "y": ("y", r"\mathbf{y}"), "A^T": ("Aᵀ", r"\mathbf{A}^{\mathsf{T}}"),
    "A^TA": ("AᵀA", r"\mathbf{A}^{\mathsf{T}}\mathbf{A}"), "A^TWA": ("AᵀWA", r"\mathbf{A}^{\mathsf{T}}\mathbf{W}\mathbf{A}"),
    "A^Ty": ("Aᵀy", r"\mathbf{A}^{\mathsf{T}}\mathbf{y}"), "A^TWy": ("AᵀWy", r"\mathbf{A}^{\mathsf{T}}\mathbf{W}\mathbf{y}"),
    "(A^TA)^-1": ("(AᵀA)⁻¹", r"\left(\mathbf{A}^{\mathsf{T}}\mathbf{A}\right)^{-1}"),
    "(A^TWA)^-1": ("(AᵀWA)⁻¹", r"\left(\mathbf{A}^{\mathsf{T}}\mathbf{W}\mathbf{A}\right)^{-1}"),
    "(J^TJ)^-1": ("(JᵀJ)⁻¹", r"\left(\mathbf{J}^{\mathsf{T}}\mathbf{J}\right)^{-1}"),
    "(J^TWJ)^-1": ("(JᵀWJ)⁻¹", r"\left(\mathbf{J}^{\mathsf{T}}\mathbf{W}\mathbf{J}\right)^{-1}"),
    "Ap": ("Ap", r"\mathbf{A}\mathbf{p}"), "r": ("r", r"\mathbf{r}"), "W": ("W", r"\mathbf{W}"), "a": ("a", r"\mathbf{a}"),
    "p": ("p", r"\mathbf{p}"),
}  # fmt: skip


@dataclass(frozen=True)
class Line:
    """An equation or a symbol, as text and as LaTeX."""

    text: str
    latex: str


def matrix_symbol(symbol: str) -> Line:
    return Line(*_MATRICES.get(symbol, ("", "")))


_HELD = "held "


def _with_sums_held(tree: Node) -> Node:
    """With brackets around a sum that is squared: (Σx)² is not Σx²."""
    match tree:
        case Operation("^", Name(name), exponent) if name.startswith("sum_"):
            return Operation("^", Name(_HELD + name), exponent)
        case Operation(sign, left, right):
            return Operation(sign, _with_sums_held(left), _with_sums_held(right))
        case Negative(part):
            return Negative(_with_sums_held(part))
        case Call(function, arguments):
            return Call(function, tuple(_with_sums_held(argument) for argument in arguments))
    return tree


@dataclass(frozen=True)
class Symbols:
    """The letters of one step. ``facts``: of the step, which say what its sums are over."""

    naming: Naming
    facts: Mapping[str, Any]

    def line(self, tree: Node, texts: Mapping[str, NumberText] | None = None) -> Line:
        """A tree in these letters; ``texts``: how its numbers are written."""
        known = texts or {}
        tree = _with_sums_held(tree)

        def text_of(number: Number) -> str:
            return known[number.text].text if number.text in known else in_sign(number.text)

        def latex_of(number: Number) -> str:
            return known[number.text].latex if number.text in known else number_to_latex(number.text)

        return Line(
            to_print(tree, lambda name: self.of(name).text, text_of),
            to_latex(tree, lambda name: self.of(name).latex, latex_of),
        )

    def of(self, name: str) -> Line:
        """What a name of a step is written as."""
        if name.startswith(_HELD):
            inner = self.of(name.removeprefix(_HELD))
            return Line(f"({inner.text})", rf"\left({inner.latex}\right)")
        parameter = parameter_name(Name(name))
        if parameter is not None:
            return self.parameter(parameter)
        if name.startswith("error of "):
            return self._error_of(name.removeprefix("error of "))
        if name in ("x", "y"):
            symbol = self.naming.x if name == "x" else self.naming.y
            return Line(symbol, symbol_latex(symbol))
        if name in _FIXED:
            return Line(*_FIXED[name])
        head, _, tail = name.partition("_")
        match head:
            case "sum":
                return self._sum(name)
            case "mean":
                return self._mean(tail)
            case "fitted":
                return Line(f"{self.naming.y}\u0302", rf"\hat{{{symbol_latex(self.naming.y)}}}")
            case "order":
                return Line(f"order {tail}", rf"\text{{order {tail}}}")
        return self._indexed(name, head, tail)

    def parameter(self, name: str) -> Line:
        letter = self.naming.letter(name)
        base, _, index = letter.partition("_")
        text = base + index.translate(_LOWERED) if index.isdigit() else letter
        return Line(text, symbol_to_latex(letter))

    def _error_of(self, parameter: str) -> Line:
        inner = self.parameter(parameter)
        return Line(f"s({inner.text})", rf"s_{{{inner.latex}}}")

    def _sum(self, name: str) -> Line:
        heading = self.facts.get("of", {}).get(name)
        if heading is None:
            products = {"sum_x": "x", "sum_y": "y", "sum_xx": "x²", "sum_xy": "x·y", "sum_yy": "y²"}
            text = products[name].replace("x", self.naming.x)
            return Line(f"Σ{text}", rf"\sum {text.replace('²', '^{2}')}")
        inner = self.line(heading)
        loose = rank(heading) < 2
        return Line(
            f"Σ({inner.text})" if loose else f"Σ{inner.text}",
            rf"\sum \left({inner.latex}\right)" if loose else rf"\sum {inner.latex}",
        )

    def _mean(self, of: str) -> Line:
        heading = self.facts.get(f"{of}_heading")
        inner = self.of(of) if heading is None else self.line(heading)
        short = len(inner.text) == 1
        bar = r"\bar" if short else r"\overline"
        return Line(f"{inner.text}\u0304" if short else f"mean of {inner.text}", rf"{bar}{{{inner.latex}}}")

    def _indexed(self, name: str, head: str, tail: str) -> Line:
        match head, tail:
            case "n", "":
                weight = self.facts.get("of", {}).get("n")
                return Line("Σw", r"\sum w") if weight is not None or self.facts.get("weighted") else Line("n", "n")
            case "s", "xx" | "xy" | "yy":
                return self._spread(tail)
            case "y", "left":
                return Line(f"{self.naming.y}\u2032", rf"{symbol_latex(self.naming.y)}'")
            case "y", "wanted":
                return self.of("y")
            case (("x" | "y"), ("below" | "above" | "middle")):
                return Line(f"{self.of(head).text} {tail}", rf"{self.of(head).latex}\ \text{{{tail}}}")
            case (("x" | "y"), _) if tail.isdigit():
                symbol = self.of(head)
                return Line(symbol.text + tail.translate(_LOWERED), rf"{{{symbol.latex}}}_{{{tail}}}")
        if tail.isdigit():
            return Line(head + tail.translate(_LOWERED), f"{head}_{{{tail}}}")
        return Line(name, symbol_to_latex(name))

    def _spread(self, which: str) -> Line:
        letters = []
        for one in which:
            heading = self.facts.get(f"{one}_heading")
            plain = heading is None or isinstance(heading, Name)
            letters.append(self.of(heading.name if isinstance(heading, Name) else one) if plain else Line("u", "u"))
        text, latex = "".join(letter.text for letter in letters), " ".join(letter.latex for letter in letters)
        return Line(f"S_{text}", rf"S_{{{latex}}}")
