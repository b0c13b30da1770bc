"""Readings off a picture: opened safely, scaled from pixels to values, and a line in it followed. Without Django, and without a study."""

from ridge.pictures.bends import Bends, count_bends
from ridge.pictures.line_following import Followed, follow_line
from ridge.pictures.measuring import angle, length
from ridge.pictures.opening import Picture, PictureRefused, open_picture
from ridge.pictures.placing import Matrix, Placing, pixels_at, places, steps
from ridge.pictures.scale import Scale

__all__ = [
    "Bends", "Followed", "Matrix", "Picture", "PictureRefused", "Placing", "Scale", "angle", "count_bends", "follow_line", "length",
    "open_picture", "pixels_at", "places", "steps",
]  # fmt: skip
