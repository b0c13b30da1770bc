"""What every part of a report is made from, and how fits are called in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, NamedTuple

from ridge.core.numerals import capital
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import NO_BREAK
from ridge.exchange.report.content import Text, joined, symbol
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_schemas import ComputedFit, DescribedFit, DrawnFit, FitOut
from ridge.studies.words.schemas import AnalysisOut


class Remark(NamedTuple):
    """A comment on the study: what it stands beside, who made it, what it says, and what was answered."""

    place: str
    author: str
    text: str
    answer: str


@dataclass(frozen=True)
class Source:
    """A study, what was computed from it, and whether its figures are to be drawings or pictures; the bytes of the picture that lies under them; what others said of it."""

    state: StudyState
    analysis: AnalysisOut
    picture: Literal["svg", "png"] = "svg"
    underlay: bytes | None = None
    comments: Sequence[Remark] = ()

    @cached_property
    def table(self) -> Table:
        return read_table(self.state)

    @cached_property
    def fitted(self) -> Sequence[Fitted]:
        return fit_all(self.table, self.state.linked_fits)

    def fit(self, letter: str) -> Fit | None:
        return next((one.fit for one in self.fitted if one.wanted.letter == letter), None)

    @cached_property
    def shown(self) -> list[FitOut]:
        return [fit for fit in self.analysis.fits if not fit.hidden]

    @cached_property
    def drawn(self) -> list[DrawnFit]:
        """Those of which there is a curve."""
        return [fit for fit in self.shown if isinstance(fit, DrawnFit)]

    @property
    def computed(self) -> list[ComputedFit]:
        """Those of these with parameters."""
        return [fit for fit in self.drawn if isinstance(fit, ComputedFit)]

    @property
    def leading(self) -> FitOut | None:
        return self.analysis.fits[0] if self.analysis.fits else None

    def title(self, fit: DescribedFit) -> str:
        """``B, cubic``; of a fit that stands alone its name."""
        return f"{fit.letter}, {name(fit)}" if len(self.shown) > 1 else capital(name(fit))

    def called(self, fit: DescribedFit) -> str:
        """What stands before something said of one fit among several."""
        return f"{self.title(fit)}: " if len(self.shown) > 1 else ""

    def of(self, fit: DescribedFit) -> str:
        """What follows the heading of a table that is one fit's among several."""
        return f" of {self.title(fit)}" if len(self.shown) > 1 else ""

    @cached_property
    def asked_x(self) -> bool:
        """Whether an x was asked for a y."""
        return bool(self.analysis.unknowns) or any(one.direction == "x_at_y" for one in self.analysis.answers)


def name(fit: DescribedFit) -> str:
    return fit.label or fit.name


def quantity(name: str, letters: str, unit: str) -> Text:
    """A heading, typeset: ``speed`` *v* ``/ (m/s)``. ``unit`` as it stands after the stroke."""
    words = f"{name} " if name and letters else name
    return joined(words, symbol(letters) if letters else "", f" /\u00a0{unit.replace(' ', NO_BREAK)}" if unit else "")
