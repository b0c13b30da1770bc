"""A picture as somebody hands it in: looked at before it is decoded, turned as it was taken, and written anew without what it told of
place and camera."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from io import BytesIO
from typing import Literal

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

MOST_BYTES = 25_000_000
MOST_PIXELS = 40_000_000
KINDS = ("PNG", "JPEG", "WEBP")
MediaType = Literal["image/png", "image/jpeg", "image/webp"]
_MEDIA_TYPES: dict[str, MediaType] = {"PNG": "image/png", "JPEG": "image/jpeg", "WEBP": "image/webp"}
_SIXTEEN_BIT = ("I;16", "I;16B", "I;16L", "I")


class PictureRefused(ValueError):
    """Why a file is not taken as a picture, as a sentence."""


@dataclass(frozen=True)
class Picture:
    """Pixels as they are seen, without transparency: ``rgb`` of shape (height, width, 3), 0 to 255. ``kind``: what it came as. ``remark``:
    what was left out of it, empty for nothing."""

    rgb: npt.NDArray[np.uint8]
    kind: str
    remark: str = ""

    @property
    def width(self) -> int:
        return int(self.rgb.shape[1])

    @property
    def height(self) -> int:
        return int(self.rgb.shape[0])

    @cached_property
    def written(self) -> tuple[bytes, MediaType]:
        """The pixels alone as a file of the same kind, and its media type: nothing else of the file that came is in it."""
        out = BytesIO()
        Image.fromarray(self.rgb, "RGB").save(out, self.kind, **({} if self.kind == "PNG" else {"quality": 90}))
        return out.getvalue(), _MEDIA_TYPES[self.kind]


def open_picture(data: bytes) -> Picture:
    """A picture from the bytes of a PNG, JPEG or WebP, turned as its metadata say.

    Raises PictureRefused for anything else, for more than ``MOST_BYTES`` or ``MOST_PIXELS``, and for what ends too early.
    """
    if len(data) > MOST_BYTES:
        raise PictureRefused(f"The picture has {len(data) / 1e6:.0f} MB; {MOST_BYTES // 1_000_000} at most.")
    head = data[:1000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith((b"<svg", b"<?xml", b"<!DOCTYPE")) or b"<svg" in head:
        raise PictureRefused("A drawing in SVG can hold code and is not taken: save it as PNG.")
    try:
        with Image.open(BytesIO(data), formats=KINDS) as held:
            width, height = held.size
            if width * height > MOST_PIXELS:
                million = f"{width * height / 1e6:.0f} million pixels"
                raise PictureRefused(f"The picture has {million}; {MOST_PIXELS // 1_000_000} million at most.")
            frames = int(getattr(held, "n_frames", 1))
            remark = f"Only the first of {frames} pictures in the file is taken." if frames > 1 else ""
            held.seek(0)
            # The library that lays out PDFs tells Pillow, for the whole process, to take what ends too early.
            ImageFile.LOAD_TRUNCATED_IMAGES = False
            held.load()
            kind = held.format or "PNG"
            return Picture(_as_seen(held), kind, remark)
    except UnidentifiedImageError:
        raise PictureRefused("This is no picture in PNG, JPEG or WebP.") from None
    except Image.DecompressionBombError:
        raise PictureRefused(f"The picture has more than {MOST_PIXELS // 1_000_000} million pixels.") from None
    except (OSError, SyntaxError, EOFError, ValueError) as problem:
        if isinstance(problem, PictureRefused):
            raise
        raise PictureRefused("The picture is damaged: it ends too early, or holds what no picture holds.") from None


def _as_seen(held: Image.Image) -> npt.NDArray[np.uint8]:
    # In place, and converted only where it has to be: every copy of a large photograph takes tens of megabytes.
    ImageOps.exif_transpose(held, in_place=True)
    turned = held
    if turned.mode in _SIXTEEN_BIT:
        deep = np.asarray(turned, dtype=np.float64)
        grey = np.clip(deep / 257, 0, 255).round().astype(np.uint8)
        return np.ascontiguousarray(np.repeat(grey[:, :, None], 3, axis=2))
    if turned.mode in ("RGBA", "LA", "PA") or "transparency" in turned.info:
        over = turned.convert("RGBA")
        paper = Image.new("RGBA", over.size, "white")
        return np.asarray(Image.alpha_composite(paper, over).convert("RGB"))
    return np.asarray(turned if turned.mode == "RGB" else turned.convert("RGB"))
