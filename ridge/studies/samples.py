"""The Sallow Quay field week: invented studies to learn from. No number in here was measured."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ridge.studies.state import AnswerState, ColumnState, StudyState


@dataclass(frozen=True)
class Sample:
    """``discover`` says what there is to find in it."""

    name: str
    title: str
    question: str
    discover: str
    build: Callable[[Sample], StudyState]


def _cells(text: str) -> tuple[str, ...]:
    return tuple("" if cell == "." else cell for cell in text.split())


def _mooring_line(sample: Sample) -> StudyState:
    return StudyState(
        title=sample.title,
        question=sample.question,
        columns=(
            ColumnState("load", "load", "F", "N", "x", _cells("0 50 100 150 200 250 300 350 400 450 500 550")),
            ColumnState("stretch", "stretch", "L", "mm", "y", _cells("1 17 37 52 74 88 109 124 171 161 182 199")),
            ColumnState("error", "", "u_L", "mm", "y_error", _cells("2 2 2 2 2 2 3 3 3 3 4 4")),
        ),
        absolute_errors=True,
        aside={8: "the line slipped on the cleat"},
        answers=(AnswerState("sail", "y_at_x", "620"), AnswerState("limit", "x_at_y", "150")),
    )


def _salinity_probe(sample: Sample) -> StudyState:
    standards = "0 0 5 5 10 10 15 15 20 20 25 25 30 30 35 35"
    signal = "14 19 121 127 236 229 338 345 446 455 561 553 664 660 769 778"
    unknown = ("quay", "quay", "quay", "channel", "channel", "channel", "stream", "stream", "stream", "stream")
    return StudyState(
        title=sample.title,
        question=sample.question,
        columns=(
            ColumnState("sample", "sample", "", "", "other", ("standard",) * 16 + unknown),
            ColumnState("salinity", "salinity", "S", "g/kg", "x", _cells(standards) + ("",) * len(unknown)),
            ColumnState(
                "signal", "signal", "U", "mV", "y", _cells(f"{signal} 598 606 601 671 665 676 158 149 161 155")
            ),
        ),
    )


SAMPLES = (
    Sample(
        "mooring-line",
        "Stretch of the mooring line",
        "How far does the line stretch under a load of 620 N?",
        "One reading lies far off and is set aside; the load asked about is beyond the last reading.",
        _mooring_line,
    ),
    Sample(
        "salinity-probe",
        "Salinity probe, calibration",
        "How salty is the water at the quay, in the channel and off the stream?",
        "Rows without a salinity are unknowns: their salinity comes from the line, with limits.",
        _salinity_probe,
    ),
)


def build_sample(name: str) -> StudyState:
    """A fresh copy of a sample. Raises KeyError for a name that is none."""
    sample = {sample.name: sample for sample in SAMPLES}[name]
    return sample.build(sample)
