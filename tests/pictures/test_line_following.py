"""Lines followed in pictures that are drawn from equations: root mean square distance from the curve below a pixel."""

from __future__ import annotations

from collections.abc import Callable
from unittest import TestCase

import numpy as np
from PIL import Image, ImageDraw
from scipy.spatial import cKDTree

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array
from ridge.pictures import Picture, follow_line, open_picture
from tests.pictures.drawn import place, plot_of

WIDTH, HEIGHT = 800, 500
BLUE, GREY = (30, 70, 150), (205, 205, 205)
FINER = 4


def painted(
    *curves: tuple[Array, Array, tuple[int, int, int], float], grid: bool = False, noise: float = 0.0
) -> Picture:
    """Curves in pixels on white, drawn four times as large and made smaller, so that their flanks are soft."""
    big = Image.new("RGB", (WIDTH * FINER, HEIGHT * FINER), "white")
    pen = ImageDraw.Draw(big)
    if grid:
        for column in range(50, WIDTH, 100):
            pen.line([(column * FINER, 0), (column * FINER, HEIGHT * FINER)], fill=GREY, width=FINER)
        for row in range(50, HEIGHT, 100):
            pen.line([(0, row * FINER), (WIDTH * FINER, row * FINER)], fill=GREY, width=FINER)
    for x, y, colour, width in curves:
        # A pixel's middle lies half a pixel behind its upper left corner.
        pen.line(
            [(float((a + 0.5) * FINER), float((b + 0.5) * FINER)) for a, b in zip(x, y, strict=True)],
            fill=colour,
            width=round(width * FINER),
        )
    rgb = np.asarray(big.resize((WIDTH, HEIGHT), Image.Resampling.BOX))
    if noise:
        rgb = np.clip(rgb + np.random.default_rng(5).normal(0, noise, rgb.shape), 0, 255).astype(np.uint8)
    return Picture(rgb, "PNG")


def stroked(curve: Callable[[Array], Array], width: float) -> Picture:
    """One thick curve, each pixel coloured by its distance from it: a drawing program leaves gaps between the pieces of such a one."""
    tree = cKDTree(np.column_stack([X, curve(X)]))
    row, column = np.mgrid[0:HEIGHT, 0:WIDTH]
    distance = tree.query(np.column_stack([column.ravel(), row.ravel()]))[0].reshape(HEIGHT, WIDTH)
    share = np.clip(width / 2 + 0.5 - distance, 0, 1)[:, :, None]
    return Picture((255 + (np.array(BLUE) - 255) * share).astype(np.uint8), "PNG")


X = np.linspace(40, 760, 2000)


def waves(x: Array) -> Array:
    return 250 + 120 * np.sin(x / 90)


def off(points: Array, curve: Callable[[Array], Array]) -> float:
    """Root mean square distance of places from a curve."""
    x = np.linspace(0, WIDTH, 4000)
    fine = np.column_stack([x, curve(x)])
    return float(np.sqrt(np.mean([np.min(np.sum((fine - point) ** 2, axis=1)) for point in points])))


class Lines(TestCase):
    def followed(self, picture: Picture, curve: Callable[[Array], Array], at: float = 300.0, count: int = 60) -> Array:
        found = follow_line(picture, (at, float(curve(np.array(at))) + 1), count=count)
        self.assertEqual((found.kind, len(found)), ("line", count))
        points = np.array(list(found))
        self.assertLess(off(points, curve), 1.0)
        return points

    def test_curves_whose_equation_is_known(self) -> None:
        for name, curve in (
            ("straight", lambda x: 420 - 0.45 * x), ("waves", waves), ("parabola", lambda x: 60 + (x - 400) ** 2 / 400),
            ("level", lambda x: 0 * x + 200), ("decay", lambda x: 440 - 380 * np.exp(-x / 150)),
        ):  # fmt: skip
            for width in (1.5, 3.0, 6.0):
                with self.subTest(name, width=width):
                    points = self.followed(painted((X, curve(X), BLUE, width)), curve)
                    self.assertLess(abs(points[0, 0] - 40), 6)
                    self.assertLess(abs(points[-1, 0] - 760), 6)
                    steps = np.hypot(*np.diff(points, axis=0).T)
                    self.assertLess(float(np.ptp(steps)), 0.06 * float(steps.mean()) + 0.2)

    def test_thick_lines_are_followed_along_their_middle(self) -> None:
        """Up to 40 pixels, wherever across it they are pressed, and from beside it too."""
        for name, curve in (("straight", lambda x: 420 - 0.45 * x), ("waves", waves), ("level", lambda x: 0 * x + 200)):
            for width in (9.0, 16.0, 40.0):
                picture = stroked(curve, width)
                for share in (0.0, 0.3, -0.45, 0.55):
                    with self.subTest(name, width=width, share=share):
                        at = 400.0
                        found = follow_line(picture, (at, float(curve(np.array(at))) + share * width), count=60)
                        self.assertEqual(found.kind, "line")
                        points = np.array(list(found))
                        inner = points[(points[:, 0] > 40 + width) & (points[:, 0] < 760 - width)]
                        self.assertGreater(len(inner), 40)
                        self.assertLess(off(inner, curve), 1.0)

    def test_a_wider_stripe_is_an_area(self) -> None:
        picture = stroked(lambda x: 0 * x + 200, 60.0)
        self.assertEqual(follow_line(picture, (400, 171.0)).kind, "border")
        with self.assertRaises(OutsideSense):
            follow_line(picture, (400, 200.0))

    def test_over_a_grid_with_noise_and_steeply(self) -> None:
        self.followed(painted((X, waves(X), BLUE, 3.0), grid=True, noise=6.0), waves)
        y = np.linspace(20, 480, 1500)
        found = follow_line(painted((300 + 40 * np.sin(y / 60), y, BLUE, 3.0)), (300 + 40 * np.sin(4), 240.0), count=40)
        points = np.array(list(found))
        self.assertLess(float(np.abs(points[:, 0] - (300 + 40 * np.sin(points[:, 1] / 60))).max()), 1.0)

    def test_another_line_of_another_colour_crosses(self) -> None:
        other = (X, 480 - 0.55 * X, (190, 60, 20), 3.0)
        self.followed(painted((X, waves(X), BLUE, 3.0), other), waves)

    def test_up_to_a_second_place(self) -> None:
        picture = painted((X, waves(X), BLUE, 3.0))
        found = follow_line(
            picture, (200, float(waves(np.array(200.0)))), stop=(500, float(waves(np.array(500.0)))), count=30
        )
        points = np.array(list(found))
        self.assertLess(abs(points[0, 0] - 200), 3)
        self.assertLess(abs(points[-1, 0] - 500), 3)
        self.assertEqual(found.ends[1], "It ends where it was pressed.")
        back = follow_line(
            picture, (500, float(waves(np.array(500.0)))), stop=(200, float(waves(np.array(200.0)))), count=30
        )
        self.assertGreater(back[0][0], back[-1][0])

    def test_why_it_stops(self) -> None:
        self.assertEqual(
            set(follow_line(painted((X, waves(X), BLUE, 3.0)), (300, float(waves(np.array(300.0))))).ends),
            {"The line ends there, or is too faint to be followed farther."},
        )
        through = np.linspace(-50, 900, 500)
        ends = follow_line(painted((through, 0 * through + 100, BLUE, 3.0)), (300, 100)).ends
        self.assertEqual(set(ends), {"It comes to the edge of the picture."})
        angle = np.linspace(0, 2 * np.pi, 1000)
        ring = painted((400 + 120 * np.cos(angle), 250 + 120 * np.sin(angle), BLUE, 3.0))
        found = follow_line(ring, (520, 250), count=80)
        self.assertIn("It comes back to where it began.", found.ends)
        points = np.array(list(found))
        self.assertLess(float(np.abs(np.hypot(points[:, 0] - 400, points[:, 1] - 250) - 120).max()), 1.0)
        fork = painted((X, 0 * X + 250, BLUE, 3.0), (X[X > 400], 250 + 0.09 * (X[X > 400] - 400), BLUE, 3.0))
        self.assertTrue(any("Two lines" in why for why in follow_line(fork, (200, 250)).ends))

    def test_dashes_are_stepped_over(self) -> None:
        dashes = [(X[i : i + 40], waves(X[i : i + 40]), BLUE, 3.0) for i in range(0, len(X) - 40, 60)]
        self.followed(painted(*dashes), waves, at=float(X[20]))

    def test_the_border_between_two_shades(self) -> None:
        rgb = np.full((HEIGHT, WIDTH, 3), 240, dtype=np.uint8)
        row, column = np.mgrid[0:HEIGHT, 0:WIDTH]
        rgb[row > waves(column)] = (70, 110, 60)
        found = follow_line(Picture(rgb, "PNG"), (300, float(waves(np.array(300.0)))), count=60)
        self.assertEqual(found.kind, "border")
        self.assertLess(off(np.array(list(found)), waves), 1.0)

    def test_what_cannot_be_followed(self) -> None:
        blank = Picture(np.full((100, 100, 3), 255, dtype=np.uint8), "PNG")
        with self.assertRaisesRegex(OutsideSense, "nothing that stands out"):
            follow_line(blank, (50, 50))
        for start, stop, count in (
            ((-1, 5), None, 50),
            ((5, 100), None, 50),
            ((5, 5), (500, 5), 50),
            ((5, 5), None, 4),
            ((5, 5), None, 201),
        ):
            with self.assertRaises(OutsideSense):
                follow_line(blank, start, stop, count)


class Meeting(TestCase):
    def test_a_paler_and_thinner_line_at_its_end_is_another_one(self) -> None:
        """As where a curve begins on the axis of its plot."""
        line = follow_line(open_picture(plot_of(lambda x: 1 + 0.2 * (x - 4) ** 2)), place(4.0, 1.0), count=40)
        left = np.array(line[0])
        self.assertLess(float(np.hypot(*(left - place(0.0, 4.2)))), 6)
        self.assertIn("may be another line", line.ends[0])
