"""Readings off a picture: opened safely, scaled from pixels to values, and a line in it followed. Without Django, and without a study."""

from ridge.pictures.line_following import Followed, follow_line
from ridge.pictures.opening import Picture, PictureRefused, open_picture
from ridge.pictures.scale import Scale

__all__ = ["Followed", "Picture", "PictureRefused", "Scale", "follow_line", "open_picture"]
