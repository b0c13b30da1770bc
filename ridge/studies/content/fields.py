"""What may stand in each field of a study: how long a text, which numbers, which names. Said once, for the state, the changes, the
history, the study file and the API."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, FiniteFloat, StringConstraints, WithJsonSchema, WrapValidator

from ridge.studies.content.allowed import FORMULA_TYPED, LIMITS

Number = FiniteFloat
Cell = Annotated[str, StringConstraints(max_length=LIMITS["cell"])]
Reason = Annotated[str, StringConstraints(max_length=200)]
Row = Annotated[int, Field(ge=0, lt=LIMITS["rows"])]
RowCount = Annotated[int, Field(ge=0, le=LIMITS["rows"])]
Key = Annotated[str, StringConstraints(pattern=r"^[\w-]{0,12}$")]
"""Of a column or an answer, unique within its study; empty for what is only tried."""


def _as_made(value: Any, check: Any) -> Any:
    """A tuple was made by Ridge and is kept as it is, so that states share it; what comes from outside is a list."""
    return value if type(value) is tuple else check(value)


Cells = Annotated[tuple[Cell, ...], Field(max_length=LIMITS["rows"]), WrapValidator(_as_made)]

# Columns
Place = Annotated[int, Field(ge=0, le=LIMITS["columns"])]
"""Of a column among the others, from 0."""
ColumnCount = Annotated[int, Field(ge=2, le=LIMITS["columns"])]
Role = Literal["x", "y", "x_error", "y_error", "weight", "count", "series", "other"]
Name = Annotated[str, StringConstraints(max_length=100, strip_whitespace=True)]
Symbol = Annotated[str, StringConstraints(max_length=20, strip_whitespace=True)]
Unit = Annotated[str, StringConstraints(max_length=40, strip_whitespace=True)]
TypedFormula = Annotated[str, StringConstraints(max_length=FORMULA_TYPED, strip_whitespace=True)]
Exponent = Annotated[int, Field(ge=-300, le=300)]
Uncertainty = Annotated[str, StringConstraints(max_length=80, strip_whitespace=True)]
Limit = Annotated[str, StringConstraints(max_length=40, strip_whitespace=True)]
Why = Annotated[str, StringConstraints(max_length=100, strip_whitespace=True)]

# Fits
Letter = Annotated[str, StringConstraints(pattern="^[A-F]$")]
Label = Annotated[str, StringConstraints(max_length=200)]
Method = Literal["y", "logarithms", "orthogonal"]
Bounds = Annotated[
    tuple[Number | None, Number | None],
    # As a plain array: what reads answers of the API knows no tuples.
    WithJsonSchema({"type": "array", "items": {"type": ["number", "null"]}, "minItems": 2, "maxItems": 2}),
]
Origin = Annotated[str, StringConstraints(max_length=120, strip_whitespace=True)]
QuantityName = Annotated[str, StringConstraints(max_length=60, min_length=1, strip_whitespace=True)]
FitName = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
Decimals = Annotated[int, Field(ge=-12, le=15)]
Parameter = Annotated[str, StringConstraints(pattern=r"^[a-z_0-9]{1,20}$")]
CourseLetter = Annotated[str, StringConstraints(pattern=r"^[^\W\d_]\w{0,11}$")]
"""A letter, with an index after an underscore where there is one."""

# Questions
PlaceOfAnswer = Annotated[int, Field(ge=0, le=LIMITS["answers"])]
Direction = Literal["y_at_x", "x_at_y", "tangent", "area", "roots", "turning", "inflexions", "crossing"]
"""What can be asked of a fit: y at one x or more, x at a y, the slope at an x, the area between two x, and the places
where the curve is zero, turns, changes its bend or meets another fit."""
Asked = Annotated[str, StringConstraints(pattern="^([A-F]|all)?$")]
Given = Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)]
Repeats = Annotated[int, Field(ge=1, le=10_000)]
AnswerName = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
AnswerWas = Annotated[str, StringConstraints(max_length=400)]

# The study and its report
Version = Annotated[int, Field(ge=-1, le=2**31 - 1)]
"""How many gestures a study has seen, -1 where none is known; also the number of a step of its history."""
Title = Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
Question = Annotated[str, StringConstraints(max_length=2000)]
Level = Annotated[float, Field(ge=0.5, le=0.9999)]
Letters = Annotated[dict[Parameter, CourseLetter], Field(max_length=40)]
Author = Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)]
ReportDate = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
PartName = Literal[
    "question", "answers", "figure", "model", "equation_errors", "parameters", "correlations", "judgement", "tests",
    "residual_plot", "cautions", "readings", "method", "comments", "own", "working",
]  # fmt: skip
PartHeading = Annotated[str, StringConstraints(max_length=120, strip_whitespace=True)]
PartText = Annotated[str, StringConstraints(max_length=5000)]
Followed = Annotated[str, StringConstraints(max_length=60)]
WorkingName = Annotated[str, StringConstraints(max_length=40)]
NumberKind = Literal["fractions", "decimals"]
Places = Annotated[int, Field(ge=0, le=12)]
TypedNumber = Annotated[str, StringConstraints(max_length=60)]

# A picture under the plot
Digest = Annotated[str, StringConstraints(pattern="^[0-9a-f]{64}$")]
"""SHA-256 of a picture's bytes, by which it is found again."""
PixelCount = Annotated[int, Field(ge=1, le=40_000_000)]
Above = Annotated[FiniteFloat, Field(gt=0)]
Shine = Annotated[float, Field(ge=0.05, le=1)]
"""How much of a picture is seen: 1 for all of it."""
PickError = Annotated[float, Field(ge=0, le=100)]
PLANE = 1e6
"""Pixels to each side in which places on and around a picture lie."""
Pixel = Annotated[FiniteFloat, Field(ge=-PLANE, le=PLANE)]
PicturePoint = Annotated[
    tuple[Pixel, Pixel],
    WithJsonSchema(
        {
            "type": "array",
            "items": {"type": "number", "minimum": -PLANE, "maximum": PLANE},
            "minItems": 2,
            "maxItems": 2,
        }
    ),
]
"""(px, py) from the upper left corner."""
Credit = Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)]
Description = Annotated[str, StringConstraints(max_length=1000, strip_whitespace=True)]

# Of a row of the database
Serial = Annotated[int, Field(ge=0, le=2**63 - 1)]

# Comments
About = Annotated[str, StringConstraints(max_length=80)]
"""What a comment stands beside: "parameter:A:slope", "answer:KEY", "caution:A:CODE", "row:12", "fit:A", or empty for the whole study."""
CommentPlace = Annotated[str, StringConstraints(max_length=120, strip_whitespace=True)]
Commenter = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]
CommentText = Annotated[str, StringConstraints(min_length=1, max_length=2000, strip_whitespace=True)]

# Readings of an instrument
RunName = Annotated[str, StringConstraints(pattern=r"^[\w-]{1,40}$")]
