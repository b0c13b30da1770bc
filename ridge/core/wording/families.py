"""What models and their parameters are called, and what each parameter means."""

from __future__ import annotations

from ridge.core.models import Exponential, Formula, Logarithmic, Logistic, Model, Polynomial, Sinusoid
from ridge.core.wording.naming import Naming, raised

_DEGREES = {2: "quadratic", 3: "cubic", 4: "quartic"}

_MEANINGS = {
    ("line", "slope"): "change in {y} for one {x_step} more",
    ("line", "intercept"): "{y} where {x} is zero",
    ("exponential", "k"): "relative rate of change of {y} per {x_step}; one more multiplies {y} by e^k",
    ("exponential", "c"): "level that {y} approaches",
    ("logarithmic", "a"): "change in {y} when {x} grows e-fold",
    ("logarithmic", "b"): "{y} where the logarithm is zero",
    ("logarithmic", "x0"): "{x} at which the logarithm begins",
    ("power", "a"): "{y} where {x} is one",
    ("power", "n"): "per cent that {y} changes for one per cent more {x}",
    ("reciprocal", "a"): "change in {y} for one more of 1/{x}",
    ("reciprocal", "b"): "{y} for very large {x}",
    ("sinusoid", "amplitude"): "half the difference between crest and trough",
    ("sinusoid", "angular_frequency"): "angle gained per {x_step}",
    ("sinusoid", "phase"): "angle where {x} is zero",
    ("sinusoid", "midline"): "middle between trough and crest",
    ("logistic", "upper"): "upper limit of {y}",
    ("logistic", "lower"): "lower limit of {y}",
    ("logistic", "rate"): "relative rate at which the change begins",
    ("logistic", "midpoint"): "{x} half-way between the levels",
    ("gaussian", "height"): "height of the peak above its level",
    ("gaussian", "centre"): "{x} of the peak",
    ("gaussian", "width"): "distance from the centre to the point of steepest slope",
    ("gaussian", "level"): "{y} far away from the peak",
}


def model_name(model: Model) -> str:
    """``line``, ``cubic``, ``exponential with level``: as a sentence would call it."""
    match model:
        case Polynomial():
            return _DEGREES.get(model.degree, f"polynomial of degree {model.degree}")
        case Exponential(level=True) | Logistic(level=True):
            return f"{model.family} with level"
        case Logarithmic(shift=True):
            return "logarithmic with shift"
        case Sinusoid():
            return f"{'sinusoid' if model.form == 'sin' else 'cosine'} in {'degrees' if model.degrees else 'radians'}"
        case Formula():
            return "own formula"
    if model.family == "line" and "intercept" in model.fixed:
        return "line through the origin" if model.fixed["intercept"] == 0 else "line with fixed intercept"
    return {"power": "power law", "gaussian": "Gaussian peak"}.get(model.family, model.family)


def curve_word(model: Model) -> str:
    """What its graph is called."""
    return "line" if model.family == "line" else "curve"


def parameter_meaning(model: Model, parameter: str, naming: Naming) -> str:
    """What a parameter says about the curve, in the study's own names; empty for those of an own formula."""
    words = {"y": naming.y_name or naming.y, "x": naming.x_name or naming.x}
    words["x_step"] = naming.x_unit or f"unit of {naming.x}"
    if isinstance(model, Polynomial):
        power = int(parameter.removeprefix("c"))
        if power == 0:
            return "{y} where {x} is zero".format(**words)
        if power == 1 and model.degree > 1:
            return "slope where {x} is zero".format(**words)
        return f"coefficient of {raised(naming.x, power)}"
    if (model.family, parameter) == ("exponential", "a"):
        said = "{y} above its level where {x} is zero" if "c" in model.parameter_names else "{y} where {x} is zero"
        return said.format(**words)
    return _MEANINGS.get((model.family, parameter), "").format(**words)
