"""How a study is drawn: axes, ticks, marks and lines. Part of the study, so that a figure stays as it was arranged."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import ConfigDict, Field, FiniteFloat

from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.state import StudyState

Step = Annotated[FiniteFloat, Field(gt=0)]
Place = Annotated[list[FiniteFloat], Field(min_length=2, max_length=2)]


class PlotSettings(Schema):
    """Everything that can be set; the values here are those of a plot that draws itself.

    Limits and tick steps are in the units of their axis. ``labels``: by how many pixels each fit's letter was moved.
    """

    model_config = ConfigDict(extra="forbid")

    x_scale: Literal["linear", "log"] = "linear"
    y_scale: Literal["linear", "log"] = "linear"
    x_low: FiniteFloat | None = None
    x_high: FiniteFloat | None = None
    y_low: FiniteFloat | None = None
    y_high: FiniteFloat | None = None
    x_step: Step | None = None
    y_step: Step | None = None
    equal: bool = False
    straighten: bool = False
    grid: Literal["none", "major", "minor"] = "major"
    join: bool = False
    shape: Literal["circle", "square", "triangle", "diamond", "cross"] = "circle"
    size: Annotated[float, Field(ge=1, le=12)] = 4.5
    colour: Literal["ink", "pine", "copper", "iris", "plum", "slate"] = "ink"
    line: Annotated[float, Field(ge=0.5, le=6)] = 2.2
    label: Literal["letter", "equation", "none"] = "letter"
    labels: Annotated[dict[str, Place], Field(max_length=6)] = {}

    def stored(self) -> dict[str, Any]:
        """As a state holds it: what differs from the plot as it draws itself."""
        return self.model_dump(exclude_defaults=True)


_WORDS = {
    "x_scale": "scale of the x axis", "y_scale": "scale of the y axis", "x_low": "x axis", "x_high": "x axis",
    "y_low": "y axis", "y_high": "y axis", "x_step": "ticks", "y_step": "ticks", "equal": "equal scales",
    "straighten": "straightening", "grid": "grid", "join": "joining lines", "shape": "marks", "size": "marks", "colour": "marks",
    "line": "lines", "label": "labels", "labels": "labels",
}  # fmt: skip


class SetPlot(Change):
    """Some settings of the plot; null sets one back."""

    kind: Literal["set_plot"] = "set_plot"
    settings: dict[str, Any]

    def apply(self, state: StudyState) -> Outcome:
        unknown = set(self.settings) - set(_WORDS)
        if unknown or not self.settings:
            raise ChangeRefused("There is no such setting of the plot.")
        given = {k: v for k, v in {**state.plot, **self.settings}.items() if v is not None}
        try:
            checked = PlotSettings(**given)
        except ValueError:
            raise ChangeRefused("That is outside what the plot can be set to.") from None
        before = {name: state.plot.get(name) for name in self.settings}
        words = dict.fromkeys(_WORDS[name] for name in self.settings)
        return Outcome(
            replace(state, plot=checked.stored()),
            SetPlot(settings=before),
            f"change the {' and '.join(words)}",
        )
