"""Equations as pictures of their own: read by XML's reader and by Pillow, held against the same equation drawn as plain text."""

from __future__ import annotations

import io
import re
from typing import Any
from xml.etree import ElementTree

import numpy as np
from matplotlib.figure import Figure
from PIL import Image

from ridge.exchange.typeset import to_mathtext
from tests.api.test_api import ApiCase
from tests.exchange.test_report_readers import alike, ink

SVG = "{http://www.w3.org/2000/svg}"


class EquationPictures(ApiCase):
    def made(self, study: str, path: str, status: int = 200) -> Any:
        response = self.client.get(f"/api/studies/{study}/fits/{path}")
        self.assertEqual(response.status_code, status, response.content[:300])
        return response

    def sample(self, name: str) -> tuple[str, Any]:
        study = self.post("/studies", {"sample": name}, status=201)["id"]
        return study, self.read(f"/studies/{study}")["analysis"]["fits"][0]

    def test_in_numbers_and_in_letters(self) -> None:
        for name in ("tide", "draining-bucket", "lantern", "can-of-soup"):
            study, fit = self.sample(name)
            for letters, text, latex in (
                ("false", fit["equation_text"], fit["equation_latex"]),
                ("true", fit["form_text"], fit["form_latex"]),
            ):
                with self.subTest(name, letters=letters):
                    svg = self.made(study, f"A/equation.svg?in_letters={letters}")
                    root = ElementTree.fromstring(svg.content)
                    self.assertEqual(root.findtext(f"{SVG}title"), text)
                    self.assertIn("equation-a.svg", svg["Content-Disposition"])
                    picture = Image.open(io.BytesIO(self.made(study, f"A/equation.png?in_letters={letters}").content))
                    width, height = (float(size) for size in root.attrib["viewBox"].split()[2:])
                    # 300 dots an inch, 72 points an inch.
                    self.assertAlmostEqual(picture.width, width * 300 / 72, delta=1)
                    self.assertAlmostEqual(picture.height, height * 300 / 72, delta=1)
                    self.assertGreater(alike(ink(picture), self.written(latex)), 0.85)

    def written(self, latex: str) -> Any:
        """The same equation as Matplotlib writes a text."""
        figure = Figure(figsize=(12, 2), facecolor="white")
        figure.text(0.02, 0.4, to_mathtext(latex) or "", fontsize=14, math_fontfamily="stix")
        body = io.BytesIO()
        figure.savefig(body, format="png", dpi=300)
        return ink(Image.open(body))

    def test_letters_and_numbers_differ(self) -> None:
        study, _ = self.sample("tide")
        found = [
            ink(Image.open(io.BytesIO(self.made(study, f"A/equation.png?in_letters={one}").content)))
            for one in ("true", "false")
        ]
        self.assertLess(alike(*found), 0.7)

    def test_what_has_no_picture_says_why(self) -> None:
        study, _ = self.sample("tide")
        self.assertIn("no fit Z", self.made(study, "Z/equation.svg", 404).json()["message"])
        self.made(study, "A/equation.exe", 422)
        empty = self.post("/studies", {}, status=201)["id"]
        self.assertIn("nothing is fitted", self.made(empty, "A/equation.svg", 400).json()["message"])
        # Its letters are known all the same.
        self.assertTrue(re.search(rb"<svg", self.made(empty, "A/equation.svg?in_letters=true").content))
        self.assertEqual(
            np.ndim(ink(Image.open(io.BytesIO(self.made(empty, "A/equation.png?in_letters=true").content)))), 2
        )

    def test_only_whose_study_it_is(self) -> None:
        study, _ = self.sample("tide")
        self.client.cookies.clear()
        self.made(study, "A/equation.svg", 404)
