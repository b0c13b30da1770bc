"""The worksheets that come with Ridge, made from samples of the field week."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ridge.classes.copies import new_code
from ridge.classes.course_settings import of_study
from ridge.classes.models import Worksheet
from ridge.classes.task_steps import Needs, Step, with_keys
from ridge.studies.api.withheld import What
from ridge.studies.content.samples import build_sample, picture_in
from ridge.studies.out.study_file import write_study


@dataclass(frozen=True)
class Shipped:
    """``about``: what is learnt, for the teacher."""

    name: str
    sample: str
    title: str
    about: str
    withheld: dict[What, int]
    steps: tuple[Step, ...]


def _text(text: str, words: int) -> Step:
    return Step(text=text, needs=Needs(kind="text", count=words))


def _fit(text: str, family: str) -> Step:
    return Step(text=text, needs=Needs(kind="fit", family=family))


def _answer(text: str, value: float, tolerance: float) -> Step:
    return Step(text=text, needs=Needs(kind="answer", value=value, tolerance=tolerance))


SHIPPED = (
    Shipped(
        "by-hand", "tide", "By hand before least squares: the tide",
        "Amplitude, period and phase are read off and set by hand before least squares is allowed.",
        {"fit": 3, "quality": 3, "suggestions": 4, "answers": 4},
        (
            _text(
                "These are heights of the water at the pontoon over a day and a bit. Before anything is computed, read three things off the "
                "plot: the mean height, how far the water rises above it, and how long it is from one high water to the next. "
                "Write them down with their units.", 8,
            ),
            _fit(
                "Add a sinusoid, $h = a \\sin(\\omega t + \\varphi) + c$. Your course keeps the fit by least squares back for now: set it by hand, "
                "with the handles or on the plot, until it follows the readings. The time from one high water to the next is $2\\pi/\\omega$.",
                "sinusoid",
            ),
            _text(
                "Which of the four parameters was the hardest to set, and which readings told you that it was wrong? "
                "Look at the residuals below the plot.", 8,
            ),
            Step(
                text="Now choose *Fit by least squares* from the menu of your fit. By how much did each parameter change? Compare with your "
                "first three numbers, and mark this step as done."
            ),
            _answer(
                "How high does the water stand at noon on the second day, at 36:00? Ask below the plot and keep the answer. It lies beyond your "
                "readings: what has to hold for it to be right?", 3.61, 0.1,
            ),
        ),
    ),
    Shipped(
        "calibration", "salinity-probe", "A straight line with limits, and an unknown",
        "A calibration line with its uncertainties; unknown samples from it, with limits.",
        {"answers": 3, "workings": 2},
        (
            _text(
                "A probe was dipped into water of known salinity, twice each. Is the signal proportional to the salinity? Is anything measured at "
                "zero? Write what you see before you fit.", 8,
            ),
            _fit("Fit a line, $U = m S + c$. What are $m$ and $c$ with their standard errors and their units?", "line"),
            _text(
                "Do the residuals show a pattern? And three readings were taken at the quay, rows 17 to 19: read off the plot, by eye and "
                "without the help of an answer, which salinity belongs to their mean of 602 mV. Write your value down.", 10,
            ),
            _text(
                "Now Ridge tells the salinities that belong to the unknown rows. What is it at the quay, and do its limits hold the value that "
                "you read off?", 6,
            ),
            _text("What made the limits this wide, and what would you do to halve them? Name two ways.", 10),
        ),
    ),
    Shipped(
        "degree", "sheer-line", "Why a higher degree is not better: the boat",
        "Polynomials of growing degree over fifteen readings: R² always grows, the curve gets worse.",
        {"suggestions": 4},
        (
            _text(
                "Here are heights of the sheer line of a rowing boat, off a drawing. It is a smooth curve with one lowest point. "
                "Which degree should a polynomial have at least, and why?", 6,
            ),
            _fit("Fit a polynomial of degree 2, then add further ones of degree 3 and of degree 6.", "polynomial"),
            _text(
                "Write down R² and the typical miss of each. Which of the two keeps growing with the degree, whatever the readings are? "
                "Open *Compare* and look at the readings that were left out.", 12,
            ),
            _text(
                "Zoom out. What do the three curves do beyond the readings? Which one would you give to a boat builder, and why?", 10,
            ),
            _answer(
                "How high is the sheer over the thwart, 1.2 m from the stern? Keep the answer of the fit that you trust.", 0.4307, 0.01,
            ),
        ),
    ),
)  # fmt: skip


def make_shipped(owner_id: int, shipped: Shipped) -> Worksheet:
    """A worksheet of one's own from one that comes with Ridge."""
    state = replace(build_sample(shipped.sample), title=shipped.title)
    picture = picture_in(state)
    return Worksheet.objects.create(
        owner_id=owner_id,
        title=shipped.title,
        study_file=write_study(state, picture.data if picture else None).decode(),
        begin="readings",
        withheld=shipped.withheld,
        steps=[step.model_dump() for step in with_keys(shipped.steps)],
        code=new_code(),
        course=of_study(state).model_dump(mode="json"),
    )
