"""Pictures as they are handed in: of every kind, turned, transparent, deep, and such as are none."""

from __future__ import annotations

from io import BytesIO
from typing import Any
from unittest import TestCase, mock

import numpy as np
from PIL import Image

from ridge.pictures import PictureRefused, open_picture, opening


def encoded(image: Image.Image, kind: str, **more: Any) -> bytes:
    out = BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def corner() -> Image.Image:
    """White, 40 wide and 20 high, with a red upper left corner."""
    image = Image.new("RGB", (40, 20), "white")
    image.paste((255, 0, 0), (0, 0, 8, 8))
    return image


class Opened(TestCase):
    def red_at(self, data: bytes, place: str, size: tuple[int, int] = (40, 20)) -> None:
        picture = open_picture(data)
        self.assertEqual((picture.width, picture.height), size)
        row = {"upper": 2, "lower": -3}[place.split()[0]]
        column = {"left": 2, "right": -3}[place.split()[1]]
        red, green, blue = picture.rgb[row, column].astype(int)
        self.assertTrue(red > 200 and green < 60 and blue < 60, (red, green, blue))

    def test_every_kind(self) -> None:
        for kind in ("PNG", "JPEG", "WEBP"):
            with self.subTest(kind):
                self.red_at(encoded(corner(), kind), "upper left")
        self.red_at(encoded(corner().convert("P"), "PNG"), "upper left")
        self.red_at(encoded(corner().convert("CMYK"), "JPEG"), "upper left")

    def test_turned_as_its_metadata_say(self) -> None:
        for orientation, place, size in (
            (1, "upper left", (40, 20)),
            (3, "lower right", (40, 20)),
            (6, "upper right", (20, 40)),
            (8, "lower left", (20, 40)),
        ):
            exif = Image.Exif()
            exif[274] = orientation
            with self.subTest(orientation):
                self.red_at(encoded(corner(), "JPEG", exif=exif), place, size)

    def test_transparent_on_white(self) -> None:
        clear = Image.new("RGBA", (10, 10), (0, 0, 0, 0))
        clear.putpixel((3, 3), (0, 0, 255, 255))
        picture = open_picture(encoded(clear, "PNG"))
        self.assertEqual(picture.rgb[0, 0].tolist(), [255, 255, 255])
        self.assertEqual(picture.rgb[3, 3].tolist(), [0, 0, 255])

    def test_sixteen_bits(self) -> None:
        deep = Image.fromarray(np.array([[0, 32896, 65535]], dtype=np.uint16))
        self.assertEqual(open_picture(encoded(deep, "PNG")).rgb[0, :, 0].tolist(), [0, 128, 255])

    def test_of_several_the_first(self) -> None:
        frames = [Image.new("RGB", (12, 8), colour) for colour in ("red", "blue", "green")]
        data = encoded(frames[0], "WEBP", save_all=True, append_images=frames[1:], lossless=True)
        picture = open_picture(data)
        self.assertEqual(picture.remark, "Only the first of 3 pictures in the file is taken.")
        self.assertGreater(int(picture.rgb[0, 0, 0]), 200)

    def test_nothing_but_pixels_goes_on(self) -> None:
        exif = Image.Exif()
        exif[271] = "Sallow Quay camera"
        exif.get_ifd(0x8825)[1] = "N"
        for kind in ("JPEG", "WEBP"):
            with self.subTest(kind):
                data = encoded(corner(), kind, exif=exif)
                self.assertIn(b"Sallow Quay", data)
                written, media_type = open_picture(data).written
                self.assertNotIn(b"Sallow Quay", written)
                self.assertEqual(media_type, f"image/{kind.lower()}")
                with Image.open(BytesIO(written)) as again:
                    self.assertEqual((again.size, len(again.getexif())), ((40, 20), 0))

    def test_what_is_none(self) -> None:
        png = encoded(corner(), "PNG")
        for data, why in (
            (b"", "no picture"), (b"x = 1\n2", "no picture"), (b"\x89PNG\r\n\x1a\nthis is none", "damaged|no picture"),
            (png[: len(png) // 2], "damaged"), (encoded(corner(), "GIF"), "no picture"), (encoded(corner(), "BMP"), "no picture"),
            (b'<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"/>', "SVG"), (b"  <svg onload='alert(1)'/>", "SVG"),
        ):  # fmt: skip
            with self.subTest(data[:12]), self.assertRaisesRegex(PictureRefused, why):
                open_picture(data)

    def test_damaged_is_refused_whatever_ran_before(self) -> None:
        png = encoded(corner(), "PNG")
        with (
            mock.patch("PIL.ImageFile.LOAD_TRUNCATED_IMAGES", True),
            self.assertRaisesRegex(PictureRefused, "damaged"),
        ):
            open_picture(png[: len(png) // 2])

    def test_too_many_pixels_are_not_decoded(self) -> None:
        """A small file that unpacks to many: its head is enough to refuse it."""
        data = encoded(corner(), "PNG")
        decoding = mock.patch("PIL.ImageFile.ImageFile.load", side_effect=AssertionError("it was decoded"))
        with (
            mock.patch.object(opening, "MOST_PIXELS", 100),
            decoding,
            self.assertRaisesRegex(PictureRefused, "at most"),
        ):
            open_picture(data)
        with mock.patch.object(opening, "MOST_BYTES", 10), self.assertRaisesRegex(PictureRefused, "at most"):
            open_picture(data)
