"""A picture under a plot through the API: opened, scaled, picked off, followed, kept, and given to nobody else."""

from __future__ import annotations

import base64
import io
import json
from typing import Any
from unittest.mock import patch

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from ridge.exchange.figure import FORMATS
from ridge.studies.content import kept_pictures
from ridge.studies.models import KeptPicture, Study
from tests.api.test_api import ApiCase
from tests.exchange.test_report_readers import text_of
from tests.pictures.drawn import marks, place, plot_of


def square(x: float) -> float:
    return 1 + 8 * (x / 10 - 0.4) ** 2 * 2.5


class PictureCase(ApiCase):
    def send(
        self, study: str, data: bytes, name: str = "plot.png", status: int = 201, client: Client | None = None
    ) -> Any:
        body = {"file": SimpleUploadedFile(name, data)}
        response = (client or self.client).post(f"/api/studies/{study}/pictures", body)
        self.assertEqual(response.status_code, status, response.content[:300])
        return response.json()

    def laid(self, study: str, data: bytes, version: int = 0, **more: Any) -> Any:
        found = self.send(study, data)
        found.pop("remark")
        place = {"x": 5, "y": 3.75, "width": 10, "height": 7.5}
        return self.change(study, version, kind="put_picture", picture={**found, "place": place, **more})

    def picked(self, study: str, version: int, values: list[tuple[float, float]]) -> Any:
        block = [[repr(x), repr(y)] for x, y in values]
        return self.change(study, version, kind="set_cells", row=0, column=0, block=block)


class Opened(PictureCase):
    def test_written_anew_and_shown_to_its_owner_alone(self) -> None:
        study = self.new()
        exif = Image.Exif()
        exif[271] = "Sallow Quay camera"
        out = io.BytesIO()
        Image.new("RGB", (30, 20), "teal").save(out, "JPEG", exif=exif)
        found = self.send(study, out.getvalue(), "photograph.jpg")
        self.assertEqual((found["width"], found["height"], found["media_type"]), (30, 20, "image/jpeg"))
        address = f"/api/studies/{study}/pictures/{found['digest']}"
        seen = self.client.get(address)
        self.assertEqual((seen.status_code, seen["Content-Type"]), (200, "image/jpeg"))
        self.assertEqual(seen["X-Content-Type-Options"], "nosniff")
        self.assertNotIn(b"Sallow Quay", seen.content)
        stranger = Client()
        self.assertEqual(stranger.get(address).status_code, 404)
        own = self.post("/studies", {"title": "mine"}, client=stranger, status=201)["id"]
        self.assertEqual(stranger.get(f"/api/studies/{own}/pictures/{found['digest']}").status_code, 404)
        # Nor can it be laid under somebody else's study by its name alone.
        found.pop("remark")
        picture = {**found, "place": {"x": 0, "y": 0, "width": 1, "height": 1}}
        body = {"version": 0, "change": {"kind": "put_picture", "picture": picture}}
        refused = self.post(f"/studies/{own}/changes", body, client=stranger, status=400)
        self.assertIn("not here", refused["message"])

    def test_what_is_none_says_so_and_changes_nothing(self) -> None:
        study = self.new()
        png = plot_of(square)
        for data, why in (
            (b"", "PNG, JPEG or WebP"), (b"x,y\n1,2", "PNG, JPEG or WebP"), (png[:900], "damaged"),
            (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "can hold code"),
        ):  # fmt: skip
            with self.subTest(data[:12]):
                self.assertIn(why, self.send(study, data, status=400)["message"])
        with patch.object(kept_pictures, "LARGEST_KEPT", 1000):
            self.assertIn("at most", self.send(study, png, status=400)["message"])
        with patch.object(kept_pictures, "MOST_KEPT", 1000):
            self.assertIn("already", self.send(study, png, status=400)["message"])
        self.assertEqual((KeptPicture.objects.count(), self.read(f"/studies/{study}")["version"]), (0, 0))

    def test_kept_once_through_undo_duplicate_and_reload(self) -> None:
        study = self.new()
        png = plot_of(square)
        self.laid(study, png)
        self.send(study, png)
        self.assertEqual(KeptPicture.objects.count(), 1)
        self.assertIsNone(self.post(f"/studies/{study}/undo", {"version": 1})["picture"])
        again = self.post(f"/studies/{study}/redo", {"version": 2})["picture"]
        self.assertEqual(again, self.read(f"/studies/{study}")["picture"])
        copy = self.post(f"/studies/{study}/duplicate", {}, status=201)["id"]
        digest = self.read(f"/studies/{copy}")["picture"]["laid"]["digest"]
        self.assertEqual(self.client.get(f"/api/studies/{copy}/pictures/{digest}").status_code, 200)

    def test_opened_unstretched_in_one_step(self) -> None:
        study = self.new()
        found = self.send(study, plot_of(square))
        found.pop("remark")
        picture = {**found, "place": {"x": 5, "y": 3.75, "width": 10, "height": 7.5}}
        self.assertTrue(self.change(study, 0, kind="put_picture", picture=picture, equal=True)["plot"]["equal"])
        undone = self.post(f"/studies/{study}/undo", {"version": 1})
        self.assertEqual((undone["picture"], undone["plot"]["equal"], undone["undo"]), (None, False, None))
        self.assertTrue(self.post(f"/studies/{study}/redo", {"version": 2})["plot"]["equal"])

    def test_each_change_is_called_by_what_it_does(self) -> None:
        study = self.new()
        state = self.laid(study, plot_of(square))
        laid = state["picture"]["laid"]
        for part, label in (
            ({"hidden": True}, "hide the picture"), ({"hidden": False}, "show the picture"), ({"locked": True}, "lock the picture"),
            ({"shine": 0.4}, "change the brightness of the picture"), ({"credit": "own work"}, "change the credit of the picture"),
            ({"place": {"x": 1, "y": 1, "width": 2, "height": 2}}, "change the place of the picture"),
        ):  # fmt: skip
            laid = {**laid, **part}
            state = self.change(study, state["version"], kind="put_picture", picture=laid)
            self.assertEqual(state["undo"], label)
        state = self.change(study, state["version"], kind="put_picture", picture=None)
        self.assertEqual((state["undo"], state["picture"]), ("take the picture away", None))


class Scaled(PictureCase):
    def test_known_positions_come_out_within_half_a_pixel(self) -> None:
        """Linear and logarithmic, upright and turned by 7°."""
        for log_y in (False, True):
            for degrees in (0.0, 7.0):
                with self.subTest(log_y=log_y, degrees=degrees):
                    study = self.new()
                    curve = (lambda x: 10 ** (x / 6 + 0.2)) if log_y else square
                    self.laid(study, plot_of(curve, degrees=degrees, log_y=log_y))
                    scale = marks(degrees=degrees, log_y=log_y)
                    state = self.change(study, 1, kind="scale_picture", scale=scale, log_y=log_y)
                    self.assertEqual(state["picture"]["remark"], "")
                    self.assertEqual(state["plot"]["y_scale"], "log" if log_y else "linear")
                    a, b, c, d, e, f = state["picture"]["matrix"]
                    for x, y in ((2.0, 5.0), (9.5, 1.25), (0.3, 9.0)):
                        px, py = place(x, y, degrees=degrees, log_y=log_y)
                        even = (a * px + c * py + e, b * px + d * py + f)
                        want = (x, np.log10(y) if log_y else y)
                        self.assertLess(abs(even[0] - want[0]) / np.hypot(a, c), 0.01)
                        self.assertLess(abs(even[1] - want[1]) / np.hypot(b, d), 0.01)
                    line = self.post(
                        f"/studies/{study}/line", {"start": place(4.0, curve(4.0), degrees=degrees, log_y=log_y)}
                    )
                    values = np.array(line["cells"], dtype=float)
                    want_y = np.array([curve(x) for x in values[:, 0]])
                    off = (np.log10(values[:, 1] / want_y) if log_y else values[:, 1] - want_y) / np.hypot(b, d)
                    inside = (values[:, 0] > 0.2) & (values[:, 0] < 9.8)
                    self.assertGreater(inside.sum(), 30)
                    self.assertLess(float(np.sqrt(np.mean(off[inside] ** 2))), 1.0)

    def test_readings_follow_when_the_scale_changes(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        # Picked in the plot's own units: the picture is ten wide, 64 pixels to one.
        where = [(2.0, 5.0), (6.0, 3.0), (9.0, 8.0)]
        own = [(px / 64, 7.5 - py / 64) for px, py in (place(x, y) for x, y in where)]
        self.picked(study, 1, own)
        state = self.change(study, 2, kind="scale_picture", scale=marks())
        got = np.array([column["cells"] for column in state["columns"][:2]], dtype=float).T
        np.testing.assert_allclose(got, where, atol=0.1 / 36)
        back = self.post(f"/studies/{study}/undo", {"version": 3})
        self.assertEqual(
            [column["cells"] for column in back["columns"][:2]],
            [[repr(v) for v in axis] for axis in zip(*own, strict=True)],
        )
        self.assertIsNone(back["picture"]["laid"]["scale"])
        kept = self.change(study, 4, kind="scale_picture", scale=marks(), follow=False)
        self.assertIsNone(kept["columns"][0]["cells"])  # as they were
        # Taken off again, the picture lies where it lay.
        bare = self.change(study, 5, kind="scale_picture", scale=None)
        np.testing.assert_allclose(bare["picture"]["matrix"], kept["picture"]["matrix"], atol=1e-12)

    def test_a_known_length(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        ends = [{"px": 100, "py": 400}, {"px": 400, "py": 400, "value": "1,5"}]
        state = self.change(study, 1, kind="scale_picture", scale={"x_marks": ends})
        a, b, c, d, e, f = state["picture"]["matrix"]
        self.assertAlmostEqual(a * 100 + c * 400 + e, 0, 12)
        self.assertAlmostEqual(b * 100 + d * 400 + f, 0, 12)
        self.assertAlmostEqual(a * 400 + c * 400 + e, 1.5, 12)
        measured = self.post(f"/studies/{study}/measured", {"points": [[100, 400], [100, 200]]})
        self.assertEqual(measured["text"], "1.000 ± 0.007")
        self.assertEqual((measured["asked"], measured["typed"]), ("1", "1"))
        corner = self.post(f"/studies/{study}/measured", {"points": [[400, 400], [100, 400], [300, 200]]})
        self.assertEqual(corner["text"], "45°")

    def test_marks_that_are_wrong_or_contradict(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        good = marks()

        def with_mark(axis: str, at: int, **part: Any) -> dict[str, Any]:
            held = [dict(mark) for mark in good[axis]]
            held[at] = {**held[at], **part}
            return {**good, axis: held}

        one = good["x_marks"][0]
        for scale, log_y, why in (
            (with_mark("x_marks", 1, value="0"), False, "The marks of x have the same value."),
            (with_mark("x_marks", 1, px=one["px"], py=one["py"]), False, "The marks of x lie at one place."),
            (with_mark("y_marks", 0, value="0"), True, "logarithmic axis"),
            (with_mark("y_marks", 0, value="ten"), False, "not a number"),
            (with_mark("y_marks", 0, value=" "), False, "type the value"),
            ({**good, "y_marks": good["x_marks"]}, False, "same direction"),
            (with_mark("y_marks", 1, value="1e400"), False, "too large"),
        ):
            with self.subTest(why):
                refused = self.change(study, 1, status=400, kind="scale_picture", scale=scale, log_y=log_y)
                self.assertRegex(refused["message"].lower(), why.lower())
        slanted = with_mark("y_marks", 1, px=good["y_marks"][1]["px"] + 120)
        state = self.change(study, 1, kind="scale_picture", scale=slanted)
        self.assertIn("check the marks", state["picture"]["remark"])

    def test_dates_and_clock_times(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        scale = marks()
        for mark, value in zip(scale["x_marks"], ("12 May 2026", "22 May 2026"), strict=True):
            mark["value"] = value
        state = self.change(study, 1, kind="scale_picture", scale=scale)
        self.assertEqual(state["picture"]["since"][0], "12 May 2026, in d")
        a, _, c, _, e, _ = state["picture"]["matrix"]
        px, py = place(3, 0)
        self.assertAlmostEqual(a * px + c * py + e, 3.0, 9)
        key = state["columns"][0]["key"]
        self.change(study, 2, kind="edit_column", key=key, unit="h:min")
        for mark, value in zip(scale["x_marks"], ("8:00", "13:00"), strict=True):
            mark["value"] = value
        self.change(study, 3, kind="scale_picture", scale=scale)
        self.change(study, 4, kind="set_cells", row=0, column=0, block=[["9:30", "2"]])
        for mark, value in zip(scale["x_marks"], ("9:00", "14:00"), strict=True):
            mark["value"] = value
        state = self.change(study, 5, kind="scale_picture", scale=scale)
        self.assertEqual(
            state["columns"][0]["cells"] or [p["text"] for p in state["columns"][0]["patch"]], ["10:30:00"]
        )

    def test_the_picture_stays_under_its_readings_in_another_unit(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        key = self.read(f"/studies/{study}")["columns"][0]["key"]
        self.change(study, 1, kind="edit_column", key=key, unit="cm")
        before = self.change(study, 2, kind="scale_picture", scale=marks())["picture"]["matrix"]
        self.picked(study, 3, [(2.0, 5.0), (6.0, 3.0)])
        after = self.change(study, 4, kind="convert_column", key=key, unit="m")["picture"]
        np.testing.assert_allclose(np.array(after["matrix"])[[0, 2, 4]] * 100, np.array(before)[[0, 2, 4]], rtol=1e-12)
        back = self.post(f"/studies/{study}/undo", {"version": 5})["picture"]
        self.assertEqual(back["matrix"], before)
        # The multiplier of the column is part of its numbers, also of those of marks.
        power = self.change(study, 6, kind="edit_column", key=key, exponent=-3)["picture"]
        np.testing.assert_allclose(np.array(power["matrix"])[[0, 2, 4]] * 1e3, np.array(before)[[0, 2, 4]], rtol=1e-12)
        swapped = self.change(study, 7, kind="swap_axes")["picture"]
        np.testing.assert_allclose(
            np.array(swapped["matrix"])[[1, 3, 5]] * 1e3, np.array(before)[[0, 2, 4]], rtol=1e-12
        )

    def test_the_ends_of_what_numbers_hold(self) -> None:
        for size in (1e-30, 1e30):
            with self.subTest(size):
                study = self.new()
                self.laid(study, plot_of(square))
                scale = marks()
                for mark in (*scale["x_marks"], *scale["y_marks"]):
                    mark["value"] = repr(float(mark["value"]) * size)
                self.change(study, 1, kind="scale_picture", scale=scale)
                line = self.post(f"/studies/{study}/line", {"start": place(4.0, square(4.0)), "count": 20})
                values = np.array(line["cells"], dtype=float) / size
                inside = (values[:, 0] > 0.2) & (values[:, 0] < 9.8)
                want = np.array([square(x) for x in values[inside, 0]])
                np.testing.assert_allclose(values[inside, 1], want, atol=0.05)


class Said(PictureCase):
    def test_bends_and_the_uncertainty_of_a_pick(self) -> None:
        study = self.new()
        self.laid(study, plot_of(square))
        self.change(study, 1, kind="scale_picture", scale=marks())
        state = self.picked(study, 2, [(x, square(x)) for x in (0.0, 2.0, 4.0, 6.0, 8.0, 10.0)])
        self.assertEqual(
            state["picture"]["advice"],
            "One bend: a polynomial needs degree 2 and three points at least; more points show how well it fits.",
        )
        self.assertEqual((state["picture"]["x_error"], state["picture"]["y_error"]), ("0.021", "0.028"))
        key = state["columns"][1]["key"]
        typed = self.change(study, 3, kind="edit_column", key=key, uncertainty=state["picture"]["y_error"])
        self.assertEqual(typed["analysis"]["y_error"], [0.028] * 6)

    def test_a_line_that_cannot_be_followed(self) -> None:
        study = self.new()
        self.assertIn("not here", self.post(f"/studies/{study}/line", {"start": [1, 1]}, status=400)["message"])
        self.laid(study, plot_of(square))
        for body, why in (
            ({"start": [600, 40]}, "This place lies on nothing"), ({"start": [9999, 40]}, "This place lies outside the picture"),
            ({"start": list(place(4.0, square(4.0))), "stop": [-1, 2]}, "The second place lies outside"),
        ):  # fmt: skip
            self.assertIn(why, self.post(f"/studies/{study}/line", body, status=400)["message"])
        self.post(f"/studies/{study}/line", {"start": [1, 1], "count": 4}, status=422)
        self.post(f"/studies/{study}/line", {"start": [1, 1], "count": 201}, status=422)

    def test_measured_and_kept_with_a_name(self) -> None:
        study = self.new()
        state = self.laid(study, plot_of(square), measured=[{"points": [[0, 0], [64, 0]], "name": "mesh"}])
        self.assertEqual(state["picture"]["measured"][0]["text"], "1.000 ± 0.022")
        self.change(study, 1, kind="edit_column", key=state["columns"][0]["key"], unit="s")
        both = self.read(f"/studies/{study}")["picture"]["measured"][0]
        self.assertEqual(both["text"], "Δx = 1.000 ± 0.022\u00a0s, Δy = 0.000 ± 0.022")
        self.assertEqual(both["asked"], "")
        angle = self.post(f"/studies/{study}/measured", {"points": [[0, 0], [64, 0], [64, 9]]})
        self.assertIn("same unit", angle["problem"])


class Out(PictureCase):
    def figure(self, study: str, kind: str, picture: str, **more: str) -> bytes:
        query = "&".join(
            f"{name}={value}" for name, value in {"picture": picture, "width": "80", "resolution": "90", **more}.items()
        )
        response = self.client.get(f"/api/studies/{study}/figure.{kind}?{query}")
        self.assertEqual(response.status_code, 200, response.content[:200])
        self.assertEqual(response["Content-Type"], FORMATS[kind])
        return response.content

    def test_a_figure_of_too_many_pixels_is_refused_with_what_to_do(self) -> None:
        at = f"/api/studies/{self.new(sample='tide')}/figure"
        for kind, size, status in (
            ("png", "width=420&resolution=1200", 400), ("tiff", "width=170&resolution=1200&aspect=2", 400),
            ("png", "width=170&resolution=600", 200), ("pdf", "width=420&resolution=1200", 200),
        ):  # fmt: skip
            response = self.client.get(f"{at}.{kind}?{size}")
            self.assertEqual(response.status_code, status, (kind, size))
            if status == 400:
                self.assertRegex(response.json()["message"], r"million pixels; at most 50 million .* PDF or SVG")

    def test_in_six_formats_with_without_and_alone(self) -> None:
        study = self.new(sample="sheer-line")
        for kind in FORMATS:
            with self.subTest(kind):
                with_it, without, alone = (
                    self.figure(study, kind, picture) for picture in ("shown", "without", "alone")
                )
                self.assertEqual(len({with_it, without, alone}), 3)
                self.assertLess(max(map(len, (with_it, without, alone))), 6_000_000)
        for picture, seen in (("shown", True), ("without", False), ("alone", True)):
            with Image.open(io.BytesIO(self.figure(study, "png", picture, resolution="100"))) as image:
                pixels = np.asarray(image.convert("RGB"), dtype=int)
            brown = (pixels[:, :, 0] - pixels[:, :, 2] > 50) & (pixels[:, :, 0] > 180)
            self.assertEqual(brown.mean() > 0.05, seen, (picture, brown.mean()))

    def test_the_credit_is_printed_under_the_figure(self) -> None:
        study = self.new(sample="sheer-line")
        with_it, without = (text_of(self.figure(study, "pdf", picture)) for picture in ("shown", "without"))
        self.assertIn("Picture: own work of Ridge, drawn for the field week, free to use.", with_it)
        self.assertNotIn("Picture:", without)

    def test_a_turned_picture_has_paper_beside_it(self) -> None:
        study = self.new()
        out = io.BytesIO()
        Image.new("RGB", (200, 200), "#c03020").save(out, "PNG")
        self.laid(study, out.getvalue(), place={"x": 5, "y": 5, "width": 10, "height": 10, "turn": 45}, shine=1)
        self.picked(study, 1, [(0, 0), (10, 10)])
        for kind in ("png", "jpg", "tiff"):
            with Image.open(
                io.BytesIO(self.figure(study, kind, "shown", x_low="-2", x_high="12", y_low="-2", y_high="12"))
            ) as image:
                pixels = np.asarray(image.convert("RGB"), dtype=int)
            red = (pixels[:, :, 0] > 150) & (pixels[:, :, 1] < 110)
            black = pixels.sum(axis=2) < 60
            self.assertGreater(red.mean(), 0.1)
            self.assertLess(black.mean(), 0.05)

    def test_credit_and_description_in_the_report(self) -> None:
        study = self.new(sample="sheer-line")
        page = self.client.get(f"/api/studies/{study}/report.html").content.decode()
        self.assertIn("Picture: own work of Ridge, drawn for the field week, free to use.", page)
        self.assertIn("Behind it a picture: Side view of a small open rowing boat", page)
        laid = self.read(f"/studies/{study}")["picture"]["laid"]
        bare = {**laid, "credit": "", "licence": "", "description": "<b>Ω</b>"}
        self.change(study, 0, kind="put_picture", picture=bare)
        page = self.client.get(f"/api/studies/{study}/report.html").content.decode()
        self.assertIn("Picture: no credit is given.", page)
        self.assertIn("&lt;b&gt;Ω&lt;/b&gt;", page)
        self.change(study, 1, kind="put_picture", picture={**bare, "hidden": True})
        self.assertNotIn("Picture:", self.client.get(f"/api/studies/{study}/report.html").content.decode())

    def test_in_the_study_file_and_back(self) -> None:
        study = self.new(sample="sheer-line")
        before = self.read(f"/studies/{study}")
        text = self.client.get(f"/api/studies/{study}/study.json").content.decode()
        stranger = Client()
        opened = self.post("/study_files", {"text": text}, client=stranger, status=201)["id"]
        again = stranger.get(f"/api/studies/{opened}").json()
        self.assertEqual(again["picture"], before["picture"])
        digest = again["picture"]["laid"]["digest"]
        theirs = stranger.get(f"/api/studies/{opened}/pictures/{digest}")
        mine = self.client.get(f"/api/studies/{study}/pictures/{digest}")
        self.assertEqual(theirs.content, mine.content)

    def test_a_file_that_was_edited_by_hand(self) -> None:
        study = self.new(sample="sheer-line")
        file = json.loads(self.client.get(f"/api/studies/{study}/study.json").content)
        count = Study.objects.count()
        part = file["picture"]
        for changed, why in (
            ({**part, "data": "not base 64!"}, "base 64"),
            ({**part, "data": base64.b64encode(b"no picture").decode()}, "PNG, JPEG or WebP"),
            ({**part, "data": part["data"][: len(part["data"]) // 8 * 4]}, "damaged"),
            ({**part, "laid": {**part["laid"], "width": 5}}, "1200 × 800 pixels, not 5 × 800"),
            ({**part, "laid": {**part["laid"], "shine": 7}}, "At picture"),
            ({**part, "laid": {**part["laid"], "scale": {**part["laid"]["scale"], "x_marks": part["laid"]["scale"]["x_marks"][:1]}}}, "At picture"),
            ({**part, "laid": {**part["laid"], "scale": {**part["laid"]["scale"], "y_marks": part["laid"]["scale"]["x_marks"]}}}, "At picture"),
        ):  # fmt: skip
            with self.subTest(why):
                text = json.dumps({**file, "picture": changed})
                self.assertIn(why, self.post("/study_files", {"text": text}, status=400)["message"])
        # Another digest says nothing: the picture is what its bytes are.
        text = json.dumps({**file, "picture": {**part, "laid": {**part["laid"], "digest": "0" * 64}}})
        made = self.post("/study_files", {"text": text}, status=201)["id"]
        self.assertEqual(self.read(f"/studies/{made}")["picture"]["laid"]["digest"], part["laid"]["digest"])
        self.assertEqual(Study.objects.count(), count + 1)
