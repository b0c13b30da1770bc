"""The families of models. A new family is one new file and its line in ``FAMILIES``."""

from ridge.core.models.base import Derived, Model
from ridge.core.models.constant import Constant
from ridge.core.models.exponential import Exponential
from ridge.core.models.gaussian import Gaussian
from ridge.core.models.line import Line
from ridge.core.models.logarithmic import Logarithmic
from ridge.core.models.logistic import Logistic
from ridge.core.models.own_formula import Formula
from ridge.core.models.polynomial import Polynomial
from ridge.core.models.power import Power
from ridge.core.models.reciprocal import Reciprocal
from ridge.core.models.sinusoid import Sinusoid

FAMILIES: dict[str, type[Model]] = {
    family.family: family
    for family in (
        Constant, Line, Polynomial, Exponential, Logarithmic, Power, Reciprocal, Sinusoid, Logistic, Gaussian, Formula
    )
}  # fmt: skip

__all__ = [
    "FAMILIES", "Constant", "Derived", "Exponential", "Formula", "Gaussian", "Line", "Logarithmic", "Logistic", "Model", "Polynomial",
    "Power", "Reciprocal", "Sinusoid",
]  # fmt: skip
