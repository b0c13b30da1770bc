"""The API of what goes out: the figure, and the readings with what was computed from them."""

from __future__ import annotations

import uuid
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Schema
from pydantic import Field, FiniteFloat, StringConstraints

from ridge.accounts.guests import user_or_new_guest
from ridge.exchange.data_files import KINDS, write_csv, write_ods, write_xlsx
from ridge.exchange.figure import FORMATS, CannotDraw, draw, draw_picture
from ridge.exchange.figure.paper import INK
from ridge.exchange.report.docx import write_docx
from ridge.exchange.report.html import write_html
from ridge.exchange.report.pdf import NoPdf, write_pdf
from ridge.exchange.typeset import as_png, as_svg, draw_equation
from ridge.pictures import PictureRefused
from ridge.studies.api.admission import seen_study
from ridge.studies.api.sent_files import as_file, gives_file
from ridge.studies.api.shelf import card
from ridge.studies.api.withheld import WORDS, refuse_withheld
from ridge.studies.content.kept_pictures import kept
from ridge.studies.content.state import StudyState
from ridge.studies.content.store import create_study, read_state
from ridge.studies.models import Study
from ridge.studies.out.data import about_sheet, answers_sheet, parameters_sheet, readings_sheet
from ridge.studies.out.figure import ASPECT, figure_content, picture_alone
from ridge.studies.out.report import report_of
from ridge.studies.out.report.source import Remark
from ridge.studies.out.scripts import script_of
from ridge.studies.out.study_file import LARGEST, NotAStudy, read_study, write_study
from ridge.studies.words.analyse import analysis_of
from ridge.studies.words.schemas import CardOut, Message

router = Router(tags=["out"])


EQUATION_SIZE = 14
"""Points of an equation that is a picture of its own."""


DOTTED = ("png", "jpg", "tiff")
MM_PER_INCH = 25.4
MOST_PIXELS = 50_000_000
"""Largest figure as PNG, JPEG or TIFF, about 170 mm at 1 200 dpi: more takes many seconds and much memory."""


class FigureIn(Schema):
    """What the plot shows (left out, all readings), how wide the figure is to be in mm, its height over its width, and whether
    in grey. ``picture``: the one under the plot as it is shown there, "without" it, or it "alone" with the readings and marks on it."""

    x_low: FiniteFloat | None = None
    x_high: FiniteFloat | None = None
    y_low: FiniteFloat | None = None
    y_high: FiniteFloat | None = None
    width: Annotated[float, Field(ge=40, le=420)] = 170
    resolution: Annotated[int, Field(ge=72, le=1200)] = 300
    aspect: Annotated[float, Field(ge=0.3, le=2)] = ASPECT
    grey: bool = False
    picture: Literal["shown", "without", "alone"] = "shown"


def _picture(study: Study, state: StudyState) -> bytes | None:
    """The bytes of the picture under the plot."""
    found = kept(study.owner, state.picture.digest) if state.picture else None
    return found.data if found else None


def _remarks(study: Study, state: StudyState) -> list[Remark]:
    """The comments on the study, where its report is to show them."""
    if not any(part.part == "comments" and part.shown for part in state.report):
        return []
    return [Remark(one.place, one.author, one.text, one.answer) for one in study.comments.all()]


@router.get(
    "/studies/{study_id}/figure.{kind}",
    response={400: Message, 404: Message},
    openapi_extra=gives_file(*FORMATS.values()),
)
def figure(
    request: HttpRequest,
    study_id: uuid.UUID,
    kind: Literal["svg", "pdf", "png", "jpg", "tiff", "eps"],
    wanted: Query[FigureIn],
) -> Any:
    """The figure as it is seen."""
    study = seen_study(request)
    refuse_withheld(request, "answers")
    pixels = (wanted.width / MM_PER_INCH * wanted.resolution) ** 2 * wanted.aspect
    if kind in DOTTED and pixels > MOST_PIXELS:
        return 400, Message(
            message=f"This figure would have {pixels / 1e6:.0f} million pixels; at most {MOST_PIXELS / 1e6:.0f} million are drawn. "
            "Choose fewer dots per inch or a smaller width, or take it as PDF or SVG."
        )
    state = read_state(study)
    view = (wanted.x_low, wanted.x_high, wanted.y_low, wanted.y_high)
    data = _picture(study, state) if wanted.picture != "without" else None
    content = figure_content(state, analysis_of(state), *view, aspect=wanted.aspect, picture=data)
    try:
        if wanted.picture == "alone":
            on = picture_alone(state, content)
            drawing = draw_picture(content, on, kind, wanted.width, wanted.resolution, wanted.grey)
        else:
            drawing = draw(content, kind, wanted.width, wanted.resolution, wanted.grey)
    except CannotDraw as reason:
        return 400, Message(message=str(reason))
    return as_file(drawing, FORMATS[kind], state.title, kind)


NO_PICTURE = "This equation cannot be drawn as a picture. Copy it as LaTeX or as MathML instead."


@router.get(
    "/studies/{study_id}/fits/{letter}/equation.{kind}",
    response={400: Message, 404: Message},
    openapi_extra=gives_file(FORMATS["svg"], FORMATS["png"]),
)
def equation(
    request: HttpRequest, study_id: uuid.UUID, letter: str, kind: Literal["svg", "png"], in_letters: bool = False
) -> Any:
    """The equation of a fit as a picture of its own, in numbers as it is shown or in letters."""
    study = seen_study(request)
    state = read_state(study)
    fit = next((one for one in analysis_of(state).fits if one.letter == letter), None)
    if fit is None:
        return 404, Message(message=f"The study has no fit {letter[:20]}.")
    if in_letters:
        text, latex = fit.form_text, fit.form_latex
    elif fit.kind == "refused" or fit.kind == "interpolation":
        return 400, Message(message="There is no equation in numbers as long as nothing is fitted.")
    else:
        text, latex = fit.equation_text, fit.equation_latex
    drawing = draw_equation(latex, EQUATION_SIZE) if latex else None
    if drawing is None:
        return 400, Message(message=NO_PICTURE)
    body = as_svg(drawing, INK, text) if kind == "svg" else as_png(drawing, INK)
    return as_file(body, FORMATS[kind], f"{state.title} equation {letter}", kind)


INERT = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; font-src data:; frame-ancestors 'self'; sandbox allow-same-origin allow-modals"
HTML, PDF = "text/html; charset=utf-8", "application/pdf"
STUDY, PYTHON = "application/json", "text/x-python; charset=utf-8"
DOCX = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"


@router.get(
    "/studies/{study_id}/report.{kind}",
    response={400: Message, 404: Message},
    openapi_extra=gives_file(HTML, PDF, DOCX),
)
def report(
    request: HttpRequest, study_id: uuid.UUID, kind: Literal["html", "pdf", "docx"], inline: bool = False
) -> Any:
    """The report to be handed in. ``inline``: to be looked at in the page, not saved."""
    study = seen_study(request)
    refuse_withheld(request, *WORDS)
    state = read_state(study)
    content = report_of(
        state,
        analysis_of(state),
        "png" if kind == "docx" else "svg",
        _picture(study, state),
        _remarks(study, state),
    )
    if kind == "docx":
        return as_file(write_docx(content, timezone.now()), DOCX, state.title, kind)
    if kind == "pdf":
        try:
            return as_file(write_pdf(content), PDF, state.title, kind)
        except NoPdf as reason:
            return 400, Message(message=str(reason))
    response = as_file(write_html(content).encode(), HTML, state.title, kind)
    if inline:
        del response["Content-Disposition"]
    # Nothing in it may run, and only the application's own page may show it.
    response["Content-Security-Policy"] = INERT
    response["X-Frame-Options"] = "SAMEORIGIN"
    return response


@router.get("/studies/{study_id}/study.json", response={404: Message}, openapi_extra=gives_file(STUDY))
def study_file(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The whole study as one file that can be opened again."""
    study = seen_study(request)
    refuse_withheld(request, *WORDS)
    state = read_state(study)
    return as_file(write_study(state, _picture(study, state)), STUDY, state.title, "ridge.json")


class StudyIn(Schema):
    """The text of a study's file."""

    text: Annotated[str, StringConstraints(max_length=LARGEST)]


@router.post("/study_files", response={201: CardOut, 400: Message})
def open_study_file(request: HttpRequest, body: StudyIn) -> tuple[int, CardOut | Message]:
    """A study taken from its file as a new one."""
    try:
        found = read_study(body.text)
        made = create_study(user_or_new_guest(request), found.state, picture=found.picture)
    except (NotAStudy, PictureRefused) as reason:
        return 400, Message(message=str(reason))
    return 201, card(made)


@router.get("/studies/{study_id}/script.py", response={404: Message}, openapi_extra=gives_file(PYTHON))
def script(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """A Python script that fits again what the study holds, with NumPy and SciPy alone."""
    study = seen_study(request)
    refuse_withheld(request, *WORDS)
    state = read_state(study)
    return as_file(script_of(state).encode(), PYTHON, state.title, "py")


@router.get("/studies/{study_id}/readings.{kind}", response={404: Message}, openapi_extra=gives_file(*KINDS.values()))
def readings(request: HttpRequest, study_id: uuid.UUID, kind: Literal["csv", "xlsx", "ods"]) -> Any:
    """The readings with fitted values and residuals; a workbook also holds the fits, the answers and what it is about."""
    study = seen_study(request)
    if kind != "csv":
        refuse_withheld(request, *WORDS)
    state = read_state(study)
    sheet = readings_sheet(state)
    if kind == "csv":
        return as_file(write_csv(sheet), KINDS[kind], state.title, kind)
    analysis = analysis_of(state)
    sheets = [sheet, parameters_sheet(analysis), answers_sheet(state, analysis), about_sheet(state, analysis)]
    write = write_xlsx if kind == "xlsx" else write_ods
    return as_file(write(sheets), KINDS[kind], state.title, kind)
