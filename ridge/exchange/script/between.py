"""An interpolation in a script: SciPy's own curve through the readings."""

from __future__ import annotations

from ridge.core.interpolation import Interpolation
from ridge.core.wording.headings import heading
from ridge.exchange.script.content import Script, ScriptedFit, comment, numbers, quoted

_MAKERS = {
    "linear": "interpolate.make_interp_spline(x_{0}, y_{0}, k=1)",
    "polynomial": "interpolate.BarycentricInterpolator(x_{0}, y_{0})",
    "monotone": "interpolate.PchipInterpolator(x_{0}, y_{0})",
}


def write_interpolation(script: Script, one: ScriptedFit) -> str:
    """The nodes, the curve and its values."""
    curve, letter, naming = one.curve, one.letter, script.naming
    assert isinstance(curve, Interpolation)
    lines = [
        "",
        comment(f"Curve {letter}: {one.name}, through the readings"),
        comment(heading(naming.x_name, naming.x, naming.x_unit) + ("; repeats averaged" if curve.averaged else "")),
        f"x_{letter} = {numbers(curve.x.tolist())}",
        comment(heading(naming.y_name, naming.y, naming.y_unit)),
        f"y_{letter} = {numbers(curve.y.tolist())}",
        f"curve_{letter} = {_maker(curve).format(letter)}",
        "",
        comment("It meets every reading, so there are no residuals and no uncertainties; values between them:"),
    ]
    for question in one.questions:
        if question.looking:
            y = sum(question.given) / len(question.given)
            x = curve.solve(y)[0].value
            low, high = _bracket(curve, x)
            lines += [
                f"x = optimize.brentq(lambda x: curve_{letter}(x) - {y!r}, {low!r}, {high!r})",
                f'show("{letter}", "{quoted(f"{naming.x} at {naming.y} = {y:.10g}")}", x, None, "{quoted(naming.x_unit)}")',
            ]
            continue
        for x in question.given:
            what = quoted(f"{naming.y} at {naming.x} = {x:.10g}")
            lines.append(f'show("{letter}", "{what}", float(curve_{letter}({x!r})), None, "{quoted(naming.y_unit)}")')
    return "\n".join(lines) + "\n"


def _maker(curve: Interpolation) -> str:
    if curve.kind == "spline":
        return f"interpolate.make_interp_spline(x_{{0}}, y_{{0}}, k={curve.degree})"
    if curve.kind != "cubic-spline":
        return _MAKERS[curve.kind]
    if curve.ends != "clamped":
        return f'interpolate.CubicSpline(x_{{0}}, y_{{0}}, bc_type="{curve.ends}")'
    ends = [float(curve.slope(end)) for end in (curve.x[0], curve.x[-1])]
    return f"interpolate.CubicSpline(x_{{0}}, y_{{0}}, bc_type=((1, {ends[0]!r}), (1, {ends[1]!r})))"


def _bracket(curve: Interpolation, x: float) -> tuple[float, float]:
    """Ends about a solution at which the curve lies on different sides of it."""
    at = float(curve.evaluate(x))
    wide = float(curve.x[-1] - curve.x[0])
    for halvings in range(1, 40):
        low, high = x - wide / 2**halvings, x + wide / 2**halvings
        if (float(curve.evaluate(low)) - at) * (float(curve.evaluate(high)) - at) < 0:
            return low, high
    return x, x
