"""The Sallow Quay field week: invented studies to learn from. No number in here was measured."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from ridge.studies.content.boat_picture import boat_laid, boat_picture
from ridge.studies.content.kept_pictures import WrittenPicture
from ridge.studies.content.state import (
    WHOLE_REPORT,
    AnswerState,
    ColumnState,
    FitState,
    OwnQuantity,
    ReportPart,
    StudyState,
)


@dataclass(frozen=True)
class Sample:
    """``discover`` says what there is to find in it, ``by`` which of the made-up groups measured it."""

    name: str
    title: str
    question: str
    discover: str
    by: str
    build: Callable[[Sample], StudyState]


DAY = "12 May"
FIRST_LOOK = (
    "This first model is **meant to fail**: an exponential runs down to zero, and the soup does not. The residuals show it. "
    "With a level, $T = a\\,e^{k t} + c$, the curve comes to the temperature of the galley."
)


def _cells(text: str) -> tuple[str, ...]:
    return tuple("" if cell == "." else cell for cell in text.split())


def _mooring_line(sample: Sample) -> StudyState:
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("load", "load", "F", "N", "x", cells=_cells("0 50 100 150 200 250 300 350 400 450 500 550")),
            ColumnState("stretch", "stretch", "L", "mm", "y", cells=_cells("1 17 37 52 74 88 109 124 171 161 182 199")),
            ColumnState("error", "", "u_L", "mm", "y_error", cells=_cells("2 2 2 2 2 2 3 3 3 3 4 4")),
        ),
        absolute_errors=True,
        aside={8: "the line slipped on the cleat"},
        fits=(FitState("A", "line", follows=(OwnQuantity("stiffness", "1/m", "2.75", "0.05"),)),),
        answers=(AnswerState("sail", "y_at_x", "620"), AnswerState("limit", "x_at_y", "150")),
    )


def _salinity_probe(sample: Sample) -> StudyState:
    standards = "0 0 5 5 10 10 15 15 20 20 25 25 30 30 35 35"
    signal = "14 19 121 127 236 229 338 345 446 455 561 553 664 660 769 778"
    unknown = ("quay", "quay", "quay", "channel", "channel", "channel", "stream", "stream", "stream", "stream")
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("sample", "sample", "", "", "other", cells=("standard",) * 16 + unknown),
            ColumnState("salinity", "salinity", "S", "g/kg", "x", cells=_cells(standards) + ("",) * len(unknown)),
            ColumnState(
                "signal", "signal", "U", "mV", "y", cells=_cells(f"{signal} 598 606 601 671 665 676 158 149 161 155")
            ),
        ),
    )


def _tide(sample: Sample) -> StudyState:
    clock = (
        "0:00 0:45 1:30 2:30 3:15 4:30 5:30 6:00 7:15 8:00 9:30 10:15 11:00 12:30 13:15 14:00 15:45 17:00 18:15 19:00 "
        "20:30 21:15 22:45 24:00 25:30 26:15 27:00"
    )
    height = (
        "4.55 4.89 4.93 4.58 4.11 2.98 2.15 1.86 1.24 . 2.12 2.76 3.44 4.54 4.89 9.48 4.00 2.93 1.78 1.38 1.21 1.62 "
        "2.73 3.96 4.86 4.94 4.64"
    )
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("time", "time since midnight", "t", "h:min", "x", cells=_cells(clock)),
            ColumnState("height", "height of the water", "h", "m", "y", cells=_cells(height)),
        ),
        aside={15: "digits swapped when it was written down: 4.98 was meant"},
        fits=(FitState("A", "sinusoid", follows=(OwnQuantity("half a lunar day", "2*pi/ω", "12.42"),)),),
        answers=(AnswerState("noon", "y_at_x", "36"),),
    )


def _can_of_soup(sample: Sample) -> StudyState:
    temperature = "83.3 77.0 71.2 65.1 60.8 56.3 50.7 46.7 40.5 . 31.8 27.4 24.9 22.5 20.4 18.3 18.1"
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("time", "time", "t", "min", "x", cells=_cells("0 2 4 6 8 10 13 16 20 25 30 36 42 50 60 75 90")),
            ColumnState("soup", "temperature", "T", "°C", "y", cells=_cells(temperature)),
        ),
        fits=(FitState("A", "exponential"),),
        answers=(AnswerState("eat", "x_at_y", "45"),),
        report=(*WHOLE_REPORT[:2], ReportPart("own", heading="First look", text=FIRST_LOOK), *WHOLE_REPORT[2:]),
    )


def _lantern(sample: Sample) -> StudyState:
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("distance", "distance", "d", "m", "x", cells=_cells("0.5 0.7 0.9 1.2 1.5 2 2.5 3 4 5 6.5 8")),
            ColumnState(
                "light", "illuminance", "E", "lx", "y",
                cells=_cells("163 88.1 50.6 29.9 18.1 10.7 6.61 4.83 2.54 17.3 0.975 0.672"), uncertainty="4 %",
            ),
        ),
        fits=(FitState("A", "power"),),
        answers=(AnswerState("reading", "x_at_y", "10"),),
    )  # fmt: skip


def _current(sample: Sample) -> StudyState:
    height = "0.05 0.1 0.15 0.2 0.3 0.4 0.6 0.8 1.0 1.4 1.8 2.4 3.0"
    speed = "0.205 0.268 0.307 0.319 0.359 0.379 0.417 0.434 0.457 0.487 0.515 0.541 0.545"
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("height", "height above the bed", "z", "m", "x", cells=_cells(height)),
            ColumnState("speed", "speed of the current", "v", "m/s", "y", cells=_cells(speed), uncertainty="0.006"),
        ),
        fits=(FitState("A", "logarithmic"), FitState("B", "power")),
        answers=(AnswerState("keel", "y_at_x", "1.2"),),
    )


def _draining_bucket(sample: Sample) -> StudyState:
    level = "31.4 28.2 24.7 21.9 19.2 16.7 . 11.9 9.9 8.0 6.6 4.9 3.6 2.6 1.7 1.0"
    time = "0 8 16 24 32 40 48 56 64 72 80 88 96 104 112 120"
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("time", "time", "t", "s", "x", cells=_cells(time)),
            ColumnState("level", "level", "h", "cm", "y", cells=_cells(level)),
            ColumnState("root", "root of the level", "r", "√cm", "other", cells=("",) * 16, formula="sqrt(h)"),
        ),
        fits=(
            FitState("A", "polynomial", options={"degree": 2}),
            FitState("B", "formula", options={"text": "if(t < b/k, (b - k*t)^2, 0)"}, name="draining law"),
        ),
        answers=(
            AnswerState("half", "x_at_y", "15.7", fit="B"),
            AnswerState("later", "y_at_x", "180"),
            AnswerState("empty", "y_at_x", "180", fit="B"),
        ),
    )


SHEER_ALONG = "0 0.12 0.3 0.55 0.8 1.05 1.4 1.7 2.0 2.35 2.7 3.0 3.25 3.5 3.62"
SHEER_HEIGHT = "618 593 554 511 473 443 419 410 419 445 495 552 618 690 729"


def _sheer_numbers() -> tuple[tuple[float, ...], tuple[float, ...]]:
    along, height = (tuple(map(float, text.split())) for text in (SHEER_ALONG, SHEER_HEIGHT))
    return along, height


def _sheer_line(sample: Sample) -> StudyState:
    return StudyState(
        title=sample.title,
        question=sample.question,
        author=sample.by,
        date=DAY,
        columns=(
            ColumnState("along", "distance from the stern", "x", "m", "x", cells=_cells(SHEER_ALONG)),
            ColumnState("sheer", "height of the sheer", "y", "m", "y", cells=_cells(SHEER_HEIGHT), exponent=-3),
        ),
        fits=(FitState("A", "polynomial", options={"degree": 3}), FitState("B", "polynomial", options={"degree": 2})),
        answers=(AnswerState("thwart", "y_at_x", "1.2"),),
        picture=boat_laid(*_sheer_numbers()),
    )


SAMPLES = (
    Sample(
        "tide",
        "Tide at the pontoon",
        "How high does the water stand at noon on the second day?",
        "A reading with two digits swapped is set aside and a height is missing; the readings are not evenly spaced, and "
        "the period is estimated from them.",
        "Field group 1: M. Tarn, J. Holm",
        _tide,
    ),
    Sample(
        "can-of-soup",
        "A can of soup in a breezy galley",
        "When can the soup be eaten, at 45 °C?",
        "The first look is meant to fail: the exponential runs down to zero, and the soup does not. See it in the "
        "residuals, give the model a level, and compare the typical misses.",
        "Field group 4: P. Aske, L. Fenn",
        _can_of_soup,
    ),
    Sample(
        "mooring-line",
        "Stretch of the mooring line",
        "How far does the line stretch under a load of 620 N?",
        "One reading is an outlier and is set aside; the load asked about is beyond the last reading. The stiffness follows from the "
        "slope, with its uncertainty, and stands beside what the maker states.",
        "Field group 2: R. Sele, A. Combe",
        _mooring_line,
    ),
    Sample(
        "salinity-probe",
        "Salinity probe, calibration",
        "How salty is the water at the quay, in the channel and off the stream?",
        "Rows without a salinity are unknowns: their salinity comes from the line, with limits.",
        "Field group 3: T. Lode, E. Marram",
        _salinity_probe,
    ),
    Sample(
        "lantern",
        "Lantern on the quay",
        "How far from the lantern is there light enough to read, 10 lx?",
        "One decimal point is misplaced: the caution names the row. Set aside, the power law comes to the inverse square: on "
        "logarithmic axes a straight line of slope −2.",
        "Field group 1: M. Tarn, J. Holm",
        _lantern,
    ),
    Sample(
        "current",
        "Current over the harbour bed",
        "How fast does the water move at the depth of a keel, 1.2 m above the bed?",
        "Two models that look alike: which one has the smaller typical miss, and is the difference worth anything?",
        "Field group 2: R. Sele, A. Combe",
        _current,
    ),
    Sample(
        "draining-bucket",
        "A draining bucket",
        "When is the bucket half empty, and what does the curve say after three minutes?",
        "Beyond the readings the parabola turns up again, and no bucket fills itself. The root of the level falls along a "
        "straight line: the draining law says so with one parameter less, and ends at the empty bucket.",
        "Field group 3: T. Lode, E. Marram",
        _draining_bucket,
    ),
    Sample(
        "sheer-line",
        "Sheer line of the rowing boat",
        "How high is the sheer over the thwart, 1.2 m from the stern?",
        "Which degree is enough? Compare the leave-one-out error of each degree before adding another.",
        "Field group 4: P. Aske, L. Fenn",
        _sheer_line,
    ),
)


def picture_in(state: StudyState) -> WrittenPicture | None:
    """The picture of a sample that has one."""
    if state.picture is None:
        return None
    found = boat_picture(*_sheer_numbers())
    return found if found.digest == state.picture.digest else None


def build_sample(name: str) -> StudyState:
    """A fresh copy of a sample. Raises KeyError for a name that is none."""
    sample = {sample.name: sample for sample in SAMPLES}[name]
    return sample.build(sample)
