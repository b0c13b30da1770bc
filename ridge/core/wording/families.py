"""What models and their parameters are called, and what each parameter means."""

from __future__ import annotations

from ridge.core.models import Exponential, Formula, Logarithmic, Logistic, Model, Polynomial, Sinusoid
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.units import raised

_DEGREES = {2: "quadratic", 3: "cubic", 4: "quartic"}

_MEANINGS = {
    ("constant", "c"): "mean of {y}",
    ("line", "slope"): "change in {y} for one {x_step} more",
    ("line", "intercept"): "{y} where {x} is zero",
    ("exponential", "k"): "relative rate of change of {y} per {x_step}; one more multiplies {y} by e^k",
    ("exponential", "c"): "level that {y} approaches",
    ("logarithmic", "a"): "change in {y} when {x} grows e-fold",
    ("logarithmic", "b"): "{y} where {x} is {x_one}",
    ("logarithmic", "x0"): "{x} at which the logarithm begins",
    ("power", "a"): "{y} where {x} is {x_one}",
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


_OF_DERIVED = {
    "x-intercept": "{x} where {y} is zero",
    "angle of slope": "angle of the line to the {x} axis in plain numbers, whatever the scales of a plot",
    "half-life": "{x} in which {distance} halves",
    "doubling time": "{x} in which {distance} doubles",
    "time constant": "{x} in which {distance} changes by the factor e",
    "growth factor": "factor by which {distance} changes for one {x_step} more",
    "limit": "level that {y} approaches",
    "change per doubling": "change in {y} when {x} doubles",
    "period": "{x} from one crest to the next",
    "frequency": "cycles per {x_step}",
    "shift along x": "{x} where the cycle begins",
    "greatest value": "{y} at a crest",
    "least value": "{y} at a trough",
    "next crest": "{x} of the first crest past the readings",
    "steepest slope": "greatest rate of change, at the midpoint",
    "y at the midpoint": "{y} half-way between the levels",
    "x of the vertex": "{x} where the curve turns",
    "y of the vertex": "{y} where the curve turns",
    "discriminant": "positive where the curve crosses zero twice, negative where it never does",
    "full width at half maximum": "width of the peak at half its height",
    "area over the level": "area between the peak and its level",
}


def derived_meaning(model: Model, quantity: str, naming: Naming) -> str:
    """What a derived quantity says, in the study's own names; ``quantity`` as the model calls it."""
    y = naming.y_name or naming.y
    words = {"y": y, "x": naming.x_name or naming.x, "x_step": naming.x_unit or f"unit of {naming.x}"}
    words["distance"] = f"the distance of {y} from its level" if "c" in model.parameter_names else y
    return _OF_DERIVED.get(quantity, "").format(**words)


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
    return {"line": "line", "constant": "constant"}.get(model.family, "curve")


def parameter_meaning(model: Model, parameter: str, naming: Naming) -> str:
    """What a parameter says about the curve, in the study's own names; empty for those of an own formula."""
    words = {"y": naming.y_name or naming.y, "x": naming.x_name or naming.x}
    words["x_step"] = naming.x_unit or f"unit of {naming.x}"
    words["x_one"] = with_unit("1", naming.x_unit)
    if isinstance(model, Polynomial):
        power = int(parameter.removeprefix("c"))
        if power == 0:
            return "{y} where {x} is zero".format(**words)
        if power == 1 and model.degree > 1:
            return "slope where {x} is zero".format(**words)
        return f"coefficient of {raised(naming.x, power)}"
    if (model.family, parameter) == ("logarithmic", "b") and "x0" in model.parameter_names:
        return "{y} where {x} is {x_one} past its beginning".format(**words)
    if (model.family, parameter) == ("exponential", "a"):
        said = "{y} above its level where {x} is zero" if "c" in model.parameter_names else "{y} where {x} is zero"
        return said.format(**words)
    return _MEANINGS.get((model.family, parameter), "").format(**words)
