"""The families of models. A new family is one new file: it is found by what it declares (see ``Model``)."""

from importlib import import_module
from pkgutil import iter_modules

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


def _found() -> list[type[Model]]:
    """Every family of this package, in the order of the catalogue."""
    modules = [vars(import_module(f"{__name__}.{module.name}")) for module in iter_modules(__path__)]
    named = {value for names in modules for value in names.values() if isinstance(value, type)}
    families = [one for one in named if issubclass(one, Model) and "family" in vars(one)]
    return sorted(families, key=lambda one: one.place)


FAMILIES: dict[str, type[Model]] = {one.family: one for one in _found()}
globals().update((one.__name__, one) for one in FAMILIES.values())

__all__ = [
    "FAMILIES", "Constant", "Derived", "Exponential", "Formula", "Gaussian", "Line", "Logarithmic", "Logistic", "Model", "Polynomial",
    "Power", "Reciprocal", "Sinusoid",
]  # fmt: skip
