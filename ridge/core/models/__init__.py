"""The families of models. A new family is one new file and its line in ``FAMILIES``."""

from ridge.core.models.base import LinearModel, Model
from ridge.core.models.line import Line

FAMILIES: dict[str, type[Model]] = {Line.family: Line}

__all__ = ["FAMILIES", "Line", "LinearModel", "Model"]
