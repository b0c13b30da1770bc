"""Readings off a picture: opened, scaled, picked, dragged, followed, by mouse, by keyboard alone and by a finger."""

from __future__ import annotations

import io
import json
import re
from base64 import b64encode
from pathlib import Path
from typing import Any

from PIL import Image, ImageDraw
from playwright.sync_api import Locator, expect

from tests.browser.base import BrowserCase
from tests.browser.test_access import Screens
from tests.pictures.drawn import place, plot_of

PLACES = ((1.0, 3.4), (4.0, 1.0), (6.0, 1.8), (9.0, 6.0))
"""Places on the curve that is drawn below."""


def curve(x: float) -> float:
    return 1 + 0.2 * (x - 4) ** 2


class Picturing(BrowserCase):
    def open_picture(self, data: bytes | None = None, name: str = "plot.png") -> None:
        self.open_new()
        file: Any = {"name": name, "mimeType": "image/png", "buffer": data or plot_of(curve)}
        self.page.get_by_label("A file to begin with").set_input_files(file)
        expect(self.picture()).to_be_visible()
        self.expect_saved()

    def picture(self) -> Locator:
        return self.page.get_by_test_id("picture").locator("image")

    def plot(self) -> Locator:
        return self.page.get_by_role("application")

    def at(self, pixel: tuple[float, float]) -> tuple[float, float]:
        """Where a pixel of the picture lies in the window."""
        text = self.picture().get_attribute("transform") or ""
        a, b, c, d, e, f = map(float, re.findall(r"[-+\d.e]+", text.removeprefix("matrix")))
        box = self.plot().bounding_box()
        assert box
        return box["x"] + a * pixel[0] + c * pixel[1] + e, box["y"] + b * pixel[0] + d * pixel[1] + f

    def per_pixel(self) -> float:
        """Pixels of the picture in one of the window."""
        (x0, _), (x1, _) = self.at((0, 0)), self.at((100, 0))
        return 100 / abs(x1 - x0)

    def press(self, pixel: tuple[float, float]) -> None:
        self.page.mouse.click(*self.at(pixel))

    def scale_by_mouse(self) -> None:
        self.page.get_by_role("button", name="Scale", exact=True).click()
        form = self.page.get_by_role("form", name="Scale of the picture")
        form.get_by_role("radio", name="Two marks on each axis").click()
        expect(form.get_by_role("status")).to_have_text("Press on the picture: x, first mark.")
        for mark in ((0, 0), (10, 0), (0, 0), (0, 10)):
            self.press(place(*mark))
        expect(self.page.get_by_test_id("mark")).to_have_count(4)
        for name, value in (
            ("x, first mark", "0"), ("x, second mark", "10"), ("y, first mark", "0"), ("y, second mark", "10"),
        ):  # fmt: skip
            form.get_by_label(f"Value of {name}").fill(value)
        form.get_by_role("button", name="Apply").click()
        expect(form).to_be_hidden()
        self.expect_saved()

    def values(self, rows: int) -> list[tuple[float, float]]:
        expect(self.page.get_by_text(f"{rows} used")).to_be_visible()
        found = []
        for row in range(1, rows + 1):
            cells = [self.cell(row, column) for column in (0, 1)]
            texts = [
                cell.locator("input").input_value() if cell.locator("input").count() else cell.inner_text()
                for cell in cells
            ]
            x, y = (float(text.replace("\u2212", "-")) for text in texts)
            found.append((x, y))
        return found

    def expect_near(
        self, found: list[tuple[float, float]], wanted: tuple[tuple[float, float], ...], pixels: float
    ) -> None:
        for (x, y), (u, v) in zip(found, wanted, strict=True):
            self.assertLess(abs(x - u) * 48, pixels, (x, u))
            self.assertLess(abs(y - v) * 36, pixels, (y, v))


class ByMouse(Picturing):
    def test_from_a_picture_to_a_fit_and_back_from_its_file(self) -> None:
        self.open_picture()
        self.scale_by_mouse()
        expect(self.page.get_by_role("group", name="Picture under the plot")).to_be_visible()
        self.page.get_by_role("radio", name="Pick").click()
        expect(self.page.get_by_text("Picking: each press is a reading")).to_be_visible()
        for one in PLACES:
            self.press(place(*one))
            expect(self.page.get_by_test_id("magnifier")).to_be_visible()
        # Marks and presses are as sure as a pixel of the window.
        self.expect_near(self.values(4), PLACES, 1.1 * self.per_pixel())
        expect(self.page.get_by_text("One bend: a polynomial needs degree 2")).to_be_hidden()
        self.page.get_by_role("radio", name="Pan and select").click()
        expect(self.page.get_by_text("One bend: a polynomial needs degree 2")).to_be_visible()
        equation = self.account().get_by_role("region", name="Model A")
        before = equation.inner_text()

        # A pick is dragged: the row and every fit follow.
        self.page.get_by_role("radio", name="Move a reading").click()
        self.page.mouse.move(*self.at(place(*PLACES[1])))
        self.page.mouse.down()
        self.page.mouse.move(*self.at(place(4.0, 2.0)), steps=4)
        self.page.mouse.up()
        self.expect_saved()
        moved = (PLACES[0], (4.0, 2.0), *PLACES[2:])
        self.expect_near(self.values(4), moved, 1.6 * self.per_pixel())
        expect(equation).not_to_have_text(before)
        self.page.get_by_role("button", name="Undo").click()
        self.expect_saved()
        self.expect_near(self.values(4), PLACES, 1.1 * self.per_pixel())

        self.page.reload()
        expect(self.picture()).to_be_visible()
        kept = self.values(4)
        self.hand_in()
        with self.page.expect_download() as download:
            self.page.locator("a[href$='study.json']").click()
        text = Path(download.value.path()).read_text()
        self.assertGreater(len(json.loads(text)["picture"]["data"]), 1000)
        self.page.keyboard.press("Escape")
        self.open_shelf()
        self.page.get_by_label("A file of readings").set_input_files(
            {"name": "again.ridge.json", "mimeType": "application/json", "buffer": text.encode()}
        )
        expect(self.picture()).to_be_visible()
        self.assertEqual(self.values(4), kept)

    def test_the_demo_picture_is_traced_and_a_pick_dragged(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        expect(self.picture()).to_be_visible()
        self.page.get_by_role("radio", name="Pick").click()
        self.press((120 + 270 * 1.2, 716 - 0.76 * 431))
        expect(self.page.get_by_text("16 used")).to_be_visible()
        self.expect_cell(16, 0, re.compile(r"^1\.(19|20)\d*$"))
        self.page.get_by_role("radio", name="Move a reading").click()
        self.page.mouse.move(*self.at((120 + 270 * 1.2, 716 - 0.76 * 431)))
        self.page.mouse.down()
        self.page.mouse.move(*self.at((120 + 270 * 1.3, 716 - 0.76 * 500)), steps=3)
        self.page.mouse.up()
        self.expect_saved()
        self.expect_cell(16, 0, re.compile(r"^1\.(29|30)\d*$"))
        for _ in range(2):
            self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("15 used")).to_be_visible()

    def test_readings_follow_the_picture_into_its_scale(self) -> None:
        self.open_picture()
        self.page.get_by_role("radio", name="Pick").click()
        for one in PLACES:
            self.press(place(*one))
        self.assertGreater(abs(self.values(4)[0][0] - 1.0), 0.5)  # in the plot's own units
        self.scale_by_mouse()
        self.expect_near(self.values(4), PLACES, 1.6 * self.per_pixel())

    def test_a_line_is_followed_shown_and_taken(self) -> None:
        self.open_picture()
        self.scale_by_mouse()
        self.page.get_by_role("radio", name="Follow a line").click()
        self.press(place(6.0, curve(6.0)))
        form = self.page.get_by_role("form", name="Line in the picture")
        expect(self.page.get_by_test_id("traced")).to_have_count(40)
        expect(form.get_by_role("status")).to_contain_text("A line of one colour.")
        self.press(place(9.0, curve(9.0)))
        expect(form.get_by_role("status")).to_contain_text("It ends where it was pressed.")
        form.get_by_label("Picks along the line").fill("12")
        form.get_by_label("Picks along the line").press("Tab")
        expect(self.page.get_by_test_id("traced")).to_have_count(12)
        form.get_by_role("button", name="Add 12 readings").click()
        found = self.values(12)
        self.expect_near(found, tuple((x, curve(x)) for x, _ in found), 1.5)
        expect(form).to_be_hidden()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("12 used")).to_be_hidden()

    def test_a_border_between_two_shades_adds_readings_only_when_asked(self) -> None:
        drawn = Image.open(io.BytesIO(plot_of(curve))).convert("RGB")
        left, top = place(2.0, 8.0)
        right, bottom = place(9.0, 4.0)
        ImageDraw.Draw(drawn).rectangle([left, top, right, bottom], fill=(90, 140, 90))
        buffer = io.BytesIO()
        drawn.save(buffer, "PNG")
        self.open_picture(buffer.getvalue())
        self.scale_by_mouse()
        self.page.get_by_role("radio", name="Follow a line").click()
        self.press((round((left + right) / 2), top))
        form = self.page.get_by_role("form", name="Line in the picture")
        expect(form.get_by_role("status")).to_contain_text("No line here, but a border between two shades.")
        add = form.get_by_role("button", name="Add 40 readings")
        expect(add).to_have_attribute("aria-disabled", "true")
        add.click(force=True)
        expect(form).to_be_visible()
        form.get_by_label("Follow the border").check()
        add.click()
        expect(self.page.get_by_text("40 used")).to_be_visible()

    def test_a_length_is_measured_kept_and_asked_at(self) -> None:
        self.open_picture()
        self.scale_by_mouse()
        self.page.get_by_role("radio", name="Measure").click()
        self.press(place(2.0, 6.0))
        self.press(place(7.0, 6.0))
        bar = self.page.get_by_role("group", name="Measured on the picture")
        expect(bar).to_contain_text(re.compile(r"Length [45]\.\d+ ± 0\.0\d+"))
        bar.get_by_role("button", name="Keep").click()
        expect(self.page.get_by_test_id("span")).to_have_count(1)
        self.page.get_by_role("button", name="Settings", exact=True).click()
        self.page.get_by_role("button", name=re.compile("Ask at this")).click()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("textbox", name="x, given")).to_have_value(re.compile(r"^[45](\.\d+)?$"))

    def test_moved_scaled_turned_hidden_and_locked(self) -> None:
        self.open_picture()
        before = self.picture().get_attribute("transform")
        handle = self.page.get_by_test_id("picture-middle")
        box = handle.locator("circle").first.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 40, y + 25, steps=3)
        self.page.mouse.up()
        self.expect_saved()
        moved = self.picture().get_attribute("transform")
        self.assertNotEqual(moved, before)
        handle = self.page.get_by_test_id("picture-turn")
        handle.focus()
        for _ in range(4):
            self.page.keyboard.press("Shift+ArrowRight")
        self.expect_saved()
        self.assertNotRegex(self.picture().get_attribute("transform") or "", r"matrix\(\S+ -?0 ")
        self.page.get_by_role("button", name="Settings", exact=True).click()
        turn = self.page.get_by_label("Turned by (°)")
        self.assertNotEqual(turn.input_value(), "0")
        turn.fill("0")
        turn.press("Enter")
        self.page.get_by_label("Width", exact=True).fill("20")
        self.page.get_by_label("Width", exact=True).press("Enter")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("button", name="Lock the picture").click()
        expect(self.page.get_by_test_id("picture-middle")).to_have_count(0)
        self.plot().focus()
        self.page.keyboard.press("p")
        expect(self.page.get_by_test_id("picture")).to_have_count(0)
        expect(self.page.get_by_role("radio", name="Pick")).to_be_disabled()
        self.page.keyboard.press("p")
        expect(self.picture()).to_be_visible()

    def test_what_is_no_picture_says_so(self) -> None:
        self.expected_problem = "400"
        self.open_new()
        field = self.page.get_by_label("A file to begin with")
        svg = b"<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>"
        field.set_input_files({"name": "drawing.svg", "mimeType": "image/svg+xml", "buffer": svg})
        expect(self.page.get_by_text("can hold code and is not taken")).to_be_visible()
        field.set_input_files({"name": "broken.png", "mimeType": "image/png", "buffer": plot_of(curve)[:700]})
        expect(self.page.get_by_text("The picture is damaged")).to_be_visible()

    def test_dropped_and_pasted_and_from_the_shelf(self) -> None:
        self.open_shelf()
        self.page.get_by_label("A file of readings").set_input_files(
            {"name": "A curve.png", "mimeType": "image/png", "buffer": plot_of(curve)}
        )
        expect(self.picture()).to_be_visible()
        expect(self.page.get_by_role("textbox", name="Title")).to_have_value("A curve")
        self.open_sample("Stretch of the mooring line")
        give = """async ([kind, data]) => {
            const bytes = Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0));
            const held = new DataTransfer();
            held.items.add(new File([bytes], "curve.png", { type: "image/png" }));
            const event = kind === "drop" ? new DragEvent("drop", { dataTransfer: held, bubbles: true, cancelable: true })
                : new ClipboardEvent("paste", { clipboardData: held, bubbles: true, cancelable: true });
            (kind === "drop" ? window : document.body).dispatchEvent(event);
        }"""

        for kind in ("drop", "paste"):
            self.page.evaluate(give, [kind, b64encode(plot_of(curve)).decode()])
            expect(self.picture()).to_be_visible()
            self.expect_saved()
            self.page.get_by_role("button", name="Undo").click()
            expect(self.page.get_by_test_id("picture")).to_have_count(0)


class ByKeyboard(Picturing):
    def test_the_demo_picture_is_scaled_and_traced(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        self.page.get_by_role("button", name="Scale", exact=True).press("Enter")
        form = self.page.get_by_role("form", name="Scale of the picture")
        form.get_by_role("radio", name="None").press("Space")
        form.get_by_role("button", name="Apply").press("Enter")
        expect(form).to_be_hidden()
        self.expect_saved()
        self.page.get_by_role("button", name="Scale", exact=True).press("Enter")
        form.get_by_role("radio", name="Two marks on each axis").press("Space")
        marks = ((120, 716, "0"), (1065, 716, "3.5"), (52.5, 716, "0"), (52.5, 108, "800"))
        self.plot().focus()
        self.page.keyboard.press("ArrowRight")
        for px, py, _ in marks:
            self.go_to((px, py))
            self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("mark")).to_have_count(4)
        names = ("x, first mark", "x, second mark", "y, first mark", "y, second mark")
        for name, (_, _, value) in zip(names, marks, strict=True):
            form.get_by_label(f"Value of {name}").focus()
            self.page.keyboard.type(value)
        self.page.keyboard.press("Enter")
        expect(form).to_be_hidden()
        self.expect_saved()
        # To whole pixels of the picture the readings are what they were.
        self.expect_cell(8, 1, re.compile(r"^4(09|10)(\.\d+)?$"))
        self.page.get_by_role("radio", name="Pick").press("Space")
        self.plot().focus()
        self.page.keyboard.press("ArrowRight")
        self.go_to((120 + 270 * 1.2, 716 - 0.76 * 430))
        self.page.keyboard.press("Enter")
        self.expect_cell(16, 0, re.compile(r"^1\.(19|20)\d*$"))
        self.expect_cell(16, 1, re.compile(r"^4(29|30|31)(\.\d+)?$"))
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_test_id("magnifier")).to_have_count(0)

    def go_to(self, pixel: tuple[float, float]) -> None:
        """By arrows, ten pixels of the picture at a time and then one."""
        cross = self.page.get_by_test_id("magnifier").locator("path").first
        for axis, (less, more) in enumerate((("ArrowLeft", "ArrowRight"), ("ArrowUp", "ArrowDown"))):
            for step, prefix in ((10.0, "Shift+"), (1.0, "")):
                d = cross.get_attribute("d") or ""
                left, y, _, _ = map(float, re.findall(r"-?[\d.]+", d.replace("h18", " ").replace("v18", " ")))
                at = (left + 9, y)
                box = self.plot().bounding_box()
                assert box
                want = self.at(pixel)
                size = step / self.per_pixel()
                away = (want[axis] - (box["x"], box["y"])[axis] - at[axis]) / size
                for _ in range(abs(round(away)) if step == 1 else int(abs(away))):
                    self.page.keyboard.press(prefix + (more if away > 0 else less))


class ByFinger(Picturing):
    width, height = 390, 844

    def new_context(self) -> Any:
        return self.browser.new_context(
            viewport={"width": 390, "height": 844}, base_url=self.live_server_url, has_touch=True, is_mobile=True
        )

    def test_a_tap_is_a_pick_and_a_swipe_is_none(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        self.page.get_by_role("radio", name="Pick").tap()
        x, y = self.at((600, 500))
        self.page.touchscreen.tap(x, y)
        self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Readings").tap()
        expect(self.page.get_by_text("16 used")).to_be_visible()

    def test_a_finger_that_stays_aims_and_picks_where_it_is_lifted(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        self.page.get_by_role("radio", name="Pick").tap()
        session = self.context.new_cdp_session(self.page)

        def touch(kind: str, *places: tuple[float, float]) -> None:
            points = [{"x": x, "y": y, "id": i} for i, (x, y) in enumerate(places)]
            session.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

        (x, y), (to_x, to_y) = self.at((500, 500)), self.at((120 + 270 * 1.2, 716 - 0.76 * 430))
        # A swipe picks nothing,
        touch("touchStart", (x, y))
        for share in (0.3, 0.6, 1.0):
            touch("touchMove", (x + share * (to_x - x), y + share * (to_y - y)))
        touch("touchEnd")
        # and a finger that stays first picks what it has slid to.
        touch("touchStart", (x, y))
        expect(self.page.get_by_test_id("magnifier")).to_be_visible()
        self.page.wait_for_timeout(500)
        for share in (0.3, 0.6, 1.0):
            touch("touchMove", (x + share * (to_x - x), y + share * (to_y - y)))
        # Whoever aims rests before lifting: the browser takes a tap right after a flick for the end of that flick.
        self.page.wait_for_timeout(300)
        touch("touchMove", (to_x, to_y))
        touch("touchEnd")
        self.page.get_by_role("navigation", name="Parts of the study").get_by_role("button", name="Readings").tap()
        expect(self.page.get_by_text("16 used")).to_be_visible()
        self.expect_cell(16, 0, re.compile(r"^1\.(1[89]|2[012])\d*$"))


class Looked(Picturing, Screens):
    def test_with_axe(self) -> None:
        self.open_sample("Sheer line of the rowing boat")
        self.check("a picture under the plot")
        self.page.get_by_role("button", name="Scale", exact=True).click()
        self.check("the scale of a picture")
        self.page.get_by_role("radio", name="Follow a line").click()
        self.press((120 + 270 * 1.7, 716 - 0.76 * 220))
        expect(self.page.get_by_test_id("traced").first).to_be_attached()
        self.check("a line that is followed")
        self.page.get_by_role("button", name="Settings", exact=True).click()
        self.check("settings of a picture")


class LookedAtOnAPhone(Looked):
    width, height = 390, 844
