"""The sentence that stands before each step of a working."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ridge.core.numerals import count_word, join, name_rows
from ridge.core.results.steps import Exact, Step
from ridge.core.wording.exact_numbers import NumberForm, write_exact
from ridge.core.wording.naming import Naming
from ridge.core.wording.working_symbols import Symbols

TITLES: Mapping[str, str] = {
    "line-by-sums": "Line by sums",
    "least-squares": "Least squares as a system of equations",
    "through-points": "Polynomial through the points, by row reduction",
    "divided-differences": "Divided differences and Newton's form",
    "lagrange": "Lagrange's form",
    "straight-pieces": "Straight lines between neighbours",
    "natural-spline": "Cubic spline with natural ends",
    "clamped-spline": "Cubic spline with given end slopes",
    "not-a-knot-spline": "Cubic spline with not-a-knot ends",
    "periodic-spline": "Cubic spline with periodic ends",
    "by-hand": "Residuals by hand",
    "least-squares-path": "The path of least squares",
    "goodness-of-fit": "How well it fits",
    "interval-at": "Interval at an x",
    "solve-for-x": "Solving for x",
}
Facts = Mapping[str, Any]
_ENDS = {
    "natural": "The second derivative is zero at both ends.",
    "clamped": "The first and the last row hold the slopes given at the ends.",
    "not-a-knot": "The first and the last row make the third derivative continuous at the second and the last knot but one.",
    "periodic": "The first row makes slopes equal at both ends, the last row second derivatives.",
}
_UNDONE = {
    "sign": "Change the sign on both sides.",
    "add": "Subtract the term without {x} from both sides.",
    "subtract": "Bring the other term to the right side.",
    "multiply": "Divide both sides by the factor.",
    "divide": "Multiply, or turn the fraction over.",
    "exp": "Take the natural logarithm of both sides.",
    "exponential": "Take logarithms of both sides.",
    "ln": "Raise e to the power of both sides.",
    "sqrt": "Square both sides.",
    "square": "Take the square root, with either sign.",
    "power": "Take the root.",
    "sin": "An angle with that sine; the other is π minus it, and whole turns may be added.",
    "cos": "An angle with that cosine; the other has the opposite sign, and whole turns may be added.",
    "tan": "An angle with that tangent; half turns may be added.",
}
_NO_X = {
    "ln": "No logarithm can be taken there.",
    "exp": "{value} is not positive, so it has no logarithm: the curve never takes this value.",
    "exponential": "{value} is not positive, so it has no logarithm: the curve never takes this value.",
    "sqrt": "A square root is never negative, but {value} is: the curve never takes this value.",
    "square": "A square is never negative, but {value} is: the curve never takes this value.",
    "power": "{value} has no such root: the curve never takes this value.",
    "sin": "A sine lies between −1 and 1, but {value} does not: the curve never takes this value.",
    "cos": "A cosine lies between −1 and 1, but {value} does not: the curve never takes this value.",
    "stretch": "No such angle lies within the measured range.",
    "discriminant": "The discriminant is negative: no real {x} gives this value.",
    "quadratic": "The leading coefficient is zero: the equation is not quadratic.",
    "nowhere": "The curve does not take this value.",
}


class Teller:
    """What sentences are made with: names of the study, numbers in the wanted form."""

    def __init__(self, naming: Naming, form: NumberForm, symbols: Symbols) -> None:
        self.naming, self.form, self.symbols = naming, form, symbols

    def number(self, value: Exact) -> str:
        return write_exact(value, self.form).number.text

    def names(self, parameters: tuple[str, ...]) -> str:
        return join([self.symbols.parameter(name).text for name in parameters])


def sentence_of(step: Step, tell: Teller) -> str:
    """Empty where the step speaks for itself."""
    told = SENTENCES.get(step.name, "")
    text = told if isinstance(told, str) else told(step.facts, tell)
    return text.replace("{x}", tell.naming.x).replace("{y}", tell.naming.y)


def _readings(facts: Facts, tell: Teller) -> str:
    used, rows, counts = facts["used"], facts["rows"], facts["counts"]
    left = rows - used
    text = f"{count_word(used, capital=True)} reading{'s' if used != 1 else ''} take{'s' if used == 1 else ''} part"
    if counts:
        text += f", which stand for {counts} with their counts"
    return f"{text}{f'; {count_word(left)} of the {rows} rows {_are(left)} left out' if left else ''}."


def _are(count: int) -> str:
    return "is" if count == 1 else "are"


def _groups(groups: tuple[tuple[int, ...], ...]) -> str:
    return join(
        [name_rows(group) for group in groups[:4]] + ([f"{len(groups) - 4} more groups"] if len(groups) > 4 else [])
    )


def _clash(facts: Facts, tell: Teller) -> str:
    groups = facts["groups"]
    return (
        f"{_capital(_groups(groups))}: the same {{x}} with different {{y}}. Equal left sides cannot equal different right sides, so no "
        "coefficients satisfy all equations."
    )


def _no_curve(facts: Facts, tell: Teller) -> str:
    return (
        f"{_capital(_groups(facts['groups']))}: one {{x}} with different {{y}}. No curve passes through all readings. Set some aside, or "
        "average the repeats."
    )


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _system(facts: Facts) -> str:
    equations, unknowns = facts["equations"], facts["unknowns"]
    return (
        f"{count_word(equations)} equation{'s' if equations != 1 else ''} for "
        f"{count_word(unknowns)} unknown{'s' if unknowns != 1 else ''}"
    )


def _none(facts: Facts, tell: Teller) -> str:
    return (
        "The last row says 0 = 1, so the system has no solution: "
        f"{_system(facts)}, and no curve of this form passes through all readings."
    )


def _one(facts: Facts, tell: Teller) -> str:
    return f"The system has one solution: {_system(facts)}, and a curve of this form passes through all readings."


def _many(facts: Facts, tell: Teller) -> str:
    return (
        f"The system has many solutions: only {count_word(facts['rank'])} of its equations are independent, for "
        f"{count_word(facts['unknowns'])} unknowns."
    )


def _reduced(facts: Facts, tell: Teller) -> str:
    if facts["pivots"] < facts["unknowns"]:
        return "Reduced row echelon form. A column without a leading one belongs to a coefficient that stays free."
    return (
        "Reduced row echelon form: ones on the diagonal, zeros beside them. The last column holds the coefficients in the order of the "
        f"columns. The {count_word(facts['operations'])} row operation{'s' if facts['operations'] != 1 else ''} are below."
    )


def _course(facts: Facts, tell: Teller) -> str:
    """What the curve does, in words."""
    through, halved, count = facts["through"], facts["halved"], facts["count"]
    parts = []
    if len(through) == count:
        return "The curve passes through all readings."
    if through:
        parts.append(f"passes through {name_rows(through)}")
    if len(halved) == 1:
        parts.append(f"halves the gap between {name_rows(halved[0]).removeprefix('rows ')}")
    elif halved:
        parts.append("halves the gaps between " + join([name_rows(pair).removeprefix("rows ") for pair in halved[:4]]))
    if not parts:
        return "The curve passes through none of the readings exactly."
    return f"The curve {join(parts)}."


def _signs(facts: Facts, tell: Teller) -> str:
    above, below = facts["signs"]
    return (
        "A residual is observed minus model: positive, the reading lies above the curve; negative, the curve lies above the reading. "
        f"Here {count_word(above)} {_are(above)} positive and {count_word(below)} negative."
    )


def _path_end(facts: Facts, tell: Teller) -> str:
    if not facts["whole"] and not facts["same"]:
        return f"The path is cut short after {facts['steps']} steps; the fit has RSS = {tell.number(facts['best'])}."
    if facts["same"]:
        return "The path ends in the best minimum, where the fit stands."
    if facts["rss"] < facts["best"]:
        return (
            f"The path goes on to RSS = {tell.number(facts['rss'])}, a little below the fit's {tell.number(facts['best'])}: the readings "
            "hardly determine these parameters, and the fit stops before they run away."
        )
    return (
        f"From here the path ends in another minimum, with RSS = {tell.number(facts['rss'])}. The fit has RSS = "
        f"{tell.number(facts['best'])}: begin nearer to it."
    )


def _interval(which: str) -> Callable[[Facts, Teller], str]:
    def told(facts: Facts, tell: Teller) -> str:
        percent = f"{100 * facts['level']:.10g} %"
        return f"{percent} {which}."

    return told


def _critical(facts: Facts, tell: Teller) -> str:
    percent, value = f"{100 * facts['level']:.10g} %", tell.number(facts["critical"])
    if facts["absolute"]:
        return f"The uncertainties are known, so the normal distribution gives the factor for {percent}: {value}."
    nu = facts["nu"]
    return f"Student's t with {nu} degree{'s' if nu != 1 else ''} of freedom for {percent}: {value}."


def _parameters(facts: Facts, tell: Teller) -> str:
    return _critical(facts, tell) + " Limits are value ± t·standard error; t in the table is value over standard error."


def _frees(facts: Facts, tell: Teller) -> str:
    return f"Written with {join([tell.symbols.line(node).text for node in facts['free']])} free:"


SENTENCES: Mapping[str, str | Callable[[Facts, Teller], str]] = {
    "readings": _readings,
    "weights": lambda facts, tell: (
        "Each reading is weighted by w, the inverse square of its uncertainty (scaled to a mean of one)." if facts["from_errors"]
        else "Each reading is weighted by w."
    ),
    "general-form": "The form:",
    "straightened": "In logarithms it is a straight line:",
    "known-part": "What is known is brought to the other side:",
    "table": "The table and its sums:",
    "sums": "",
    "divisor": "",
    "all-x-equal": "All {x} are equal, so the divisor is zero: no slope can be computed.",
    "all-x-zero": "Every {x} is zero, so the divisor is zero: no slope can be computed.",
    "slope": "The slope:",
    "intercept": "The intercept:",
    "mean-x": "The same about the means:",
    "correlation": "The correlation coefficient:",
    "both-routes": "Both routes agree:",
    "fit": "The fit has the same numbers:",
    "equation": "The equation:",
    "each-reading": "The equation written out for each reading:",
    "clash": _clash,
    "design-matrix": "The coefficients of the unknowns as a matrix:",
    "right-hand-side": "The right-hand side:",
    "unknowns": lambda facts, tell: (
        f"Together **A**·**p** = **y** with the unknown vector **p** = ({', '.join(tell.symbols.line(node).text for node in facts['unknowns'])})."
    ).replace("**", ""),
    "reduced-system": "How many solutions has it? The augmented matrix [A | y] reduced:",
    "none": _none,
    "one": _one,
    "many": _many,
    "same-rows": lambda facts, tell: (
        f"{_capital(_groups(facts['groups']))} have the same left side, so they count as one equation: the matrix cannot be reduced to ones "
        "on the whole diagonal."
    ),
    "projection": lambda facts, tell: (
        "The columns of A reach only a part of all possible y. Least squares replaces y by the nearest vector that they reach, its "
        "projection; what is left over then stands at right angles to every column, "
        + ("weighted: AᵀW(y − Ap) = 0, so AᵀWA·p = AᵀWy." if facts["weighted"] else "Aᵀ(y − Ap) = 0, so AᵀA·p = Aᵀy.")
    ),
    "transpose": "The transpose:",
    "weight-matrix": "The weights, the diagonal of W:",
    "normal-matrix": "The normal equations, left side:",
    "normal-right-hand-side": "Right side:",
    "augmented": "The augmented matrix:",
    "reduced": _reduced,
    "coefficients": "Read off:",
    "echelon": "The other way: the echelon form,",
    "back-substitution": "",
    "no-solution": "A row says that zero equals something else: the system has no solution.",
    "many-solutions": _frees,
    "inverse": lambda facts, tell: (
        "The inverse of JᵀJ, where J holds the derivatives of the curve by each parameter at the readings:" if facts.get("tangent")
        else "The inverse matrix:"
    ),
    "by-inverse": "The second route, inverse times right side:",
    "fitted": "The projection of y: the fitted values",
    "residuals": "The residual vector r = y − Ap:",
    "orthogonality": "The check: each column of A times r gives zero.",
    "what-the-curve-does": _course,
    "back": "Out of the logarithm:",
    "points": lambda facts, tell: (
        f"{count_word(facts['count'], capital=True)} points with different {{x}} determine a polynomial of degree {facts['degree']}."
    ),
    "no-curve": _no_curve,
    "averaged": lambda facts, tell: f"{_capital(_groups(facts['groups']))} share an {{x}} and are replaced by their mean.",
    "nodes": lambda facts, tell: f"{count_word(facts['count'], capital=True)} nodes in order of {{x}}.",
    "points-put-in": "Each point put back in:",
    "divided-differences": "Each entry is the difference of its two left neighbours over the distance of their outer {x}:",
    "newton-form": "The first row holds the coefficients of Newton's form:",
    "value-at-x": lambda facts, tell: f"At {{x}} = {tell.number(facts['x'])}:" if "x" in facts else "The value there:",
    "lagrange-weights": "For each node the product of its distances to the others, and {y} over it:",
    "lagrange-form": "Lagrange's form:",
    "pieces": "The pieces:",
    "widths": "Widths and slopes between the knots:",
    "spline-rows": lambda facts, tell: (
        "The second derivatives Mᵢ at the knots are unknown. At each inner knot the slopes of both pieces are equal: "
        "hᵢ₋₁·Mᵢ₋₁ + 2(hᵢ₋₁ + hᵢ)·Mᵢ + hᵢ·Mᵢ₊₁ = 6(slopeᵢ − slopeᵢ₋₁). " + _ENDS[facts["ends"]]
    ),
    "tridiagonal": "The system, one row a knot, with its coefficients below, on and above the diagonal:",
    "second-derivatives": "The second derivatives:",
    "piece-form": "Each piece, from its first knot on, with a = y, b the slope, c half and d a sixth of the second and third derivative there:",
    "knots-value": "Both pieces have the same value at every inner knot:",
    "knots-slope": "the same slope:",
    "knots-bend": "and the same second derivative:",
    "at-hand": "The values at hand:",
    "residual-table": "Observed, model, residual and its square:",
    "signs": _signs,
    "one-at-a-time": "One parameter changed by one step, the others kept: the total up or down.",
    "attempts": "The attempts so far; the smallest total is marked.",
    "not-linear": "The parameters do not enter this model linearly: no system of linear equations gives them, and least squares goes step by "
    "step from a start.",
    "path": "The path, one step a row:",
    "path-end": _path_end,
    "in-logarithms": "Least squares was done in logarithms; what follows is of the straight line there.",
    "total-squares": "The sum of squares about the mean:",
    "r-squared": "The coefficient of determination:",
    "no-variation": "All {y} are equal: there is no variation to account for, and R² has no value.",
    "degrees-of-freedom": lambda facts, tell: f"Readings less {count_word(facts['p'])} fitted parameter{'s' if facts['p'] != 1 else ''}:",
    "no-freedom": "There are as many parameters as readings: nothing is left to estimate the scatter from.",
    "s": "The residual standard deviation:",
    "nothing-fitted": "Nothing was fitted, so parameters have no standard errors.",
    "absolute-errors": lambda facts, tell: (
        f"The uncertainties are known, so s is replaced by that of a reading of weight one, {tell.number(facts['sigma'])}."
    ),
    "no-scatter": "The residuals are all zero: standard errors are zero too.",
    "standard-error": "",
    "spread-of-x": "For a line the textbook has the same from the spread of {x}:",
    "standard-error-line": "",
    "parameters": _parameters,
    "f": lambda facts, tell: (
        f"F compares with {_null(facts['compared_with'])}, by {count_word(facts['k'])} more parameter{'s' if facts['k'] != 1 else ''}:"
    ),
    "row-at-x": lambda facts, tell: (
        f"At {{x}} = {tell.number(facts['x'])} the parameters {tell.names(facts['names'])} "
        + ("move the curve by these derivatives:" if facts["tangent"] else "are multiplied by")
    ),
    "leverage-at-x": "The leverage there, h = a·inverse·aᵀ:",
    "standard-error-at-x": "The standard error of the curve there:",
    "critical-value": _critical,
    "mean-half": "Half of the confidence interval of the curve:",
    "mean-interval": _interval("confidence interval of the curve"),
    "new-half": "A new reading scatters as well, which adds its own variance:",
    "new-interval": _interval("prediction interval of a new reading"),
    "mean-interval-back": _interval("confidence interval of the curve, out of the logarithm"),
    "new-interval-back": _interval("prediction interval of a new reading, out of the logarithm"),
    "set-equal": "Set equal to the wanted {y}:",
    "turned": lambda facts, tell: _UNDONE[facts["how"]],
    "brought-to-zero": "Brought to one side:",
    "discriminant": "The discriminant:",
    "root": "",
    "no-x": lambda facts, tell: _NO_X.get(facts["how"], _NO_X["nowhere"]).replace("{value}", tell.number(facts["value"])),
    "bisection": lambda facts, tell: (
        "{x} stands in several places, so it is narrowed down: the middle replaces the end on its own side"
        + (f" (solution {facts['number']} of {facts['of']})." if facts["of"] > 1 else ".")
    ),
    "no-uncertainty": lambda facts, tell: (
        "Nothing was fitted, so x has no standard error." if facts["given"]
        else "The standard error of {x} is not shown here; the answer on the page has its limits."
    ),
    "standard-error-of-x": lambda facts, tell: f"The standard error of {{x}} = {tell.number(facts['x'])}:",
    "level-there": "The curve is level there: its slope gives no standard error of {x}.",
}  # fmt: skip


def _null(name: str) -> str:
    return {"constant": "a constant", "zero": "zero", "fixed": "the constant term alone"}.get(name, name)
