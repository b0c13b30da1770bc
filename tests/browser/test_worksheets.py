"""A worksheet: made from a study, solved by two students, handed in, looked at, and all readings in one study."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from tests.browser.test_access import Screens

TITLE = "Salinity probe, calibration"


class MakingOne(Screens):
    def make(self) -> str:
        """A worksheet of three steps; its code."""
        self.open_sample(TITLE)
        self.page.get_by_role("button", name="Hand in").click()
        self.page.get_by_role("button", name="Make a worksheet of it").click()
        expect(self.page.get_by_role("heading", name=TITLE)).to_be_visible()
        page = self.page
        page.get_by_label("How many words for step 1").fill("3")
        page.get_by_role("button", name="Add a step").click()
        page.get_by_label("Text of step 2").fill("Fit a line $U = m S + c$ <script>alert(1)</script>")
        page.get_by_label("What step 2 needs").select_option(label="a fit")
        page.get_by_label("Which fit for step 2").select_option(label="line")
        page.get_by_role("button", name="Add a step").click()
        page.get_by_label("Text of step 3").fill("How salty is it at the quay?")
        page.get_by_label("What step 3 needs").select_option(label="an answer")
        page.get_by_label("Value for step 3").fill("27.08")
        page.get_by_label("Tolerance for step 3").fill("0.3")
        self.save(page)
        return page.get_by_test_id("code").inner_text()

    def save(self, page: Page) -> None:
        """Save the worksheet, and wait until it is: its notice may be that of an earlier time."""
        with page.expect_response(re.compile("/api/worksheets/[^/]+$")) as saved:
            page.get_by_role("button", name="Save the worksheet").click()
        self.assertEqual(saved.value.status, 200)
        expect(page.get_by_text("The worksheet is saved").last).to_be_visible()

    def join(self, page: Page, code: str, name: str) -> None:
        page.goto("/")
        page.get_by_role("button", name="Join a class").click()
        page.get_by_label("The code that your teacher gave you").fill(code.lower())
        page.keyboard.press("Enter")
        page.get_by_label("Your name").fill(name)
        page.get_by_role("button", name="Begin").click()
        expect(page.get_by_role("region", name="Worksheet")).to_be_visible()


class OfAClass(MakingOne):
    def test_made_solved_by_two_and_seen(self) -> None:
        self.expected_problem = "404"
        code = self.make()
        self.check("a worksheet")
        teacher = self.page

        ann = self.new_page(self.new_context())
        self.join(ann, code, "Ann")
        task = ann.get_by_role("region", name="Worksheet")
        expect(task.get_by_text("Step 2 is told when the one before it is done.")).to_be_visible()
        task.get_by_label("Your words to step 1").fill("It rises evenly.")
        expect(task.get_by_text("Fit a line")).to_be_visible()
        expect(task.locator(".katex").first).to_be_visible()
        expect(task.get_by_text("<script>alert(1)</script>")).to_be_visible()
        self.page = ann
        self.check("a copy")
        self.add_model("line")
        expect(task.get_by_text("3 of 3 steps done")).to_be_visible()
        task.get_by_label("Your words to step 3").fill("27 g/kg, nearly as in the sea")
        expect(task.get_by_test_id("words-3")).to_have_text("Kept")
        task.get_by_role("button", name="Hand in to your teacher").click()
        expect(task.get_by_text(re.compile("^Handed in on"))).to_be_visible()
        ann.reload()
        expect(task.get_by_label("Your words to step 3")).to_have_value("27 g/kg, nearly as in the sea")
        expect(task.get_by_role("button", name="Hand in again")).to_be_visible()

        ben = self.new_page(self.new_context())
        ben.goto("/account")
        held = ben.get_by_role("form", name="Keep my studies")
        held.get_by_label("Name").fill("Holm")
        held.get_by_label("Password").fill("a long walk on the pier")
        held.get_by_role("button").click()
        expect(ben.get_by_text("Signed in as Holm")).to_be_visible()
        self.join(ben, code, "Ben")

        self.page = teacher
        table = teacher.get_by_role("table", name="Copies of the class")
        expect(table.get_by_role("row")).to_have_count(3)
        row = table.get_by_role("row").filter(has_text="Ann")
        expect(row).to_contain_text("3 of 3")
        expect(row).to_contain_text("0.9998")
        plot = teacher.get_by_role("figure")
        plot.get_by_role("button", name="Ann").click()
        expect(plot.get_by_test_id("of-Ann").locator("path")).to_have_attribute("stroke-width", "3")
        self.check("a class")
        table.get_by_role("button", name="Steps").click()
        expect(table.get_by_role("row").nth(1)).to_contain_text("Ben")
        with teacher.expect_download() as saved:
            teacher.get_by_role("link", name="Table as CSV").click()
        self.assertTrue(saved.value.suggested_filename.endswith(".csv"))
        table.get_by_role("link", name="Ann").click()
        shown = teacher.get_by_role("region", name="Worksheet")
        expect(shown.get_by_text("27 g/kg, nearly as in the sea")).to_be_visible()
        expect(shown.get_by_role("textbox")).to_have_count(0)
        expect(teacher.get_by_role("button", name="Undo")).to_have_count(0)
        teacher.go_back()
        teacher.get_by_role("button", name="Open what Ann handed in").click()
        expect(teacher.get_by_role("heading", name=f"Ann: {TITLE}").first).to_be_visible()
        teacher.go_back()
        teacher.get_by_role("button", name="All readings in one new study").click()
        expect(teacher.get_by_text("32 readings of 2 students.").first).to_be_visible()
        expect(self.grid()).to_contain_text("Ann")
        teacher.go_back()
        teacher.get_by_role("button", name=re.compile("^Close it")).click()
        expect(teacher.get_by_text("The worksheet is closed.")).to_be_visible()
        ann.reload()
        expect(task.get_by_text("The worksheet is closed.")).to_be_visible()
        teacher.get_by_role("button", name="Delete the worksheet").click()
        teacher.get_by_role("button", name="Delete it for good").click()
        expect(teacher.get_by_role("heading", name="Shelf")).to_be_visible()
        ann.reload()
        expect(task.get_by_text("Your copy stays with you.")).to_be_visible()
        ann.goto(f"/join/{code}")
        expect(ann.get_by_role("alert")).to_contain_text("There is no worksheet of this code")
        for one in (ann, ben):
            one.context.close()

    def test_joined_and_solved_by_keyboard_alone(self) -> None:
        code = self.make()
        self.page.goto("/join")
        keys = self.page.keyboard

        def go_to(field: Locator) -> None:
            """By the Tab key alone."""
            for _ in range(120):
                if field.count() and field.evaluate("one => one === document.activeElement"):
                    return
                keys.press("Escape")  # out of the table, where Tab goes to the next cell
                keys.press("Tab")
            self.fail(f"never reached: {field}")

        go_to(self.page.get_by_label("The code that your teacher gave you"))
        keys.type(code)
        keys.press("Enter")
        expect(self.page.get_by_label("Your name")).to_be_visible()
        go_to(self.page.get_by_label("Your name"))
        keys.type("Ann")
        keys.press("Enter")
        task = self.page.get_by_role("region", name="Worksheet")
        expect(task).to_be_visible()
        self.grid().get_by_role("gridcell").first.wait_for()
        go_to(task.get_by_label("Your words to step 1"))
        keys.type("It rises evenly.")
        expect(task.get_by_text("Fit a line")).to_be_visible()
        go_to(self.page.get_by_role("button", name="Add a model"))
        keys.press("Enter")
        expect(self.page.get_by_role("menuitem").first).to_be_focused()
        keys.press("Enter")
        expect(task.get_by_text("3 of 3 steps done")).to_be_visible()
        keys.press("Home")
        for _ in range(80):
            if task.get_by_role("button", name="Hand in to your teacher").evaluate(
                "one => one === document.activeElement"
            ):
                break
            keys.press("Shift+Tab")
        keys.press("Enter")
        expect(task.get_by_text(re.compile("^Handed in on"))).to_be_visible()

    def test_kept_back_until_the_student_has_tried(self) -> None:
        self.expected_problem = "403"
        code = self.make()
        for part in ("the fit by least squares", "R² and how well", "the workings"):
            self.page.get_by_label(re.compile(f"^{part}")).first.check()
        self.save(self.page)
        self.check("what is kept back")
        ann = self.new_page(self.new_context())
        self.join(ann, code, "Ann")
        task = ann.get_by_role("region", name="Worksheet")
        kept = task.get_by_role("list", name="Kept back for now")
        expect(kept.get_by_role("listitem")).to_have_count(3)
        teacher, self.page = self.page, ann
        self.add_model("line")
        expect(ann.get_by_role("slider").first).to_be_visible()
        model = ann.get_by_role("region", name="Model A")
        expect(model.get_by_text("How well it fits")).to_have_count(0)
        expect(model.get_by_text("R²")).to_have_count(0)
        self.check("a copy of which something is kept back")
        ann.get_by_role("radio", name="Workings").click()
        expect(ann.get_by_role("alert")).to_contain_text("when step 1 is done")
        ann.get_by_role("radio", name="Plot").click()
        task.get_by_label("Your words to step 1").fill("It rises evenly.")
        expect(kept).to_have_count(0)
        expect(model.get_by_text("R²").first).to_be_visible()
        self.choose_for("A", "Fit by least squares")
        expect(model).to_contain_text("21.60")
        self.page = teacher
        ann.context.close()


class OutOfReach(MakingOne):
    def test_a_class_that_is_not_up_to_date_says_so(self) -> None:
        self.expected_problem = "Failed to load resource"
        self.make()
        expect(self.page.get_by_text("The class: 0 joined, 0 handed in")).to_be_visible()
        self.page.route("**/api/worksheets/*/class", lambda route: route.abort())
        said = self.page.get_by_role("alert").filter(
            has_text="The server cannot be reached. This is the class as it was at"
        )
        expect(said).to_be_visible(timeout=60_000)
        self.page.unroute("**/api/worksheets/*/class")
        expect(said).to_be_hidden(timeout=60_000)


class SettledByTheCourse(MakingOne):
    def settle(self) -> str:
        code = self.make()
        page = self.page
        page.get_by_text("The course’s settings, which hold in every copy").click()
        page.get_by_role("button", name="Only the line").click()
        page.get_by_role("checkbox", name="sinusoid").check()
        page.get_by_label("Level of intervals").select_option(label="90 %")
        page.get_by_label("Decimals of an equation").select_option(label="2")
        page.get_by_label("Angles").select_option(label="in degrees")
        page.get_by_label("Least number of readings").fill("17")
        page.get_by_label("A letter for").select_option(label="line, m: change in y for one unit of x more")
        letter = page.get_by_label("Letter for line, m")
        expect(letter).to_have_value("m")
        letter.fill("1")
        expect(page.get_by_text("A letter, with an index")).to_be_visible()
        letter.fill("g")
        page.get_by_label("A span for").select_option(label="line, m: change in y for one unit of x more")
        page.get_by_label("Highest value for line, m").fill("40")
        page.get_by_label("Step for line, m").fill("0,5")
        self.check("the settings of a course")
        self.save(page)
        return code

    def test_it_holds_in_every_copy(self) -> None:
        self.expected_problem = "400"  # handing in too early
        code = self.settle()
        teacher, ann = self.page, self.new_page(self.new_context())
        self.join(ann, code, "Ann")
        self.page = ann
        task = ann.get_by_role("region", name="Worksheet")
        expect(task.get_by_text("the models on offer (line, sinusoid)")).to_be_visible()
        expect(task.get_by_text("at least: 16 are in use.")).to_be_visible()
        self.add_model("line")
        model = ann.get_by_role("region", name="Model A")
        expect(model.get_by_label("Model of fit A").get_by_role("option")).to_have_text(["line", "sinusoid"])
        expect(model.locator("annotation").first).to_have_text(re.compile(r"21\.60.*16\.71"))
        expect(model.get_by_role("rowheader", name="slope")).to_contain_text("g")
        expect(ann.get_by_label("Confidence level")).to_have_count(0)
        expect(ann.get_by_text("at 90 %").first).to_be_visible()
        ann.get_by_role("button", name="Add a model").click()
        items = ann.get_by_role("menuitem")
        expect(items).to_have_count(2)
        ann.keyboard.press("Escape")
        self.choose_for("A", "Set by hand")
        expect(ann.get_by_role("slider", name="g")).to_have_attribute("aria-valuemax", "40")
        expect(ann.get_by_role("button", name="g: finer steps")).to_have_count(0)
        expect(ann.get_by_role("button", name="c: finer steps")).to_be_visible()
        value = ann.get_by_label("g, value")
        value.fill("41")
        value.press("Enter")
        expect(model.get_by_role("alert")).to_have_text("Your course keeps g between 0.0 and 40.0.")
        value.press("Escape")
        self.check("a copy with a course's settings")
        task.get_by_role("button", name="Hand in to your teacher").click()
        expect(task.get_by_role("alert")).to_contain_text("at least: 16 are in use.")

        # Mended while it is open: the copy follows by itself.
        teacher.get_by_label("Level of intervals").select_option(label="99 %")
        teacher.get_by_label("Least number of readings").fill("0")
        teacher.get_by_role("button", name="Save the worksheet").click()
        expect(ann.get_by_text("at 99 %").first).to_be_visible()
        task.get_by_role("button", name="Hand in to your teacher").click()
        expect(task.get_by_text(re.compile("^Handed in on"))).to_be_visible()
        self.page = teacher
        ann.context.close()

    def test_tried_by_the_teacher(self) -> None:
        self.settle()
        address = self.page.url
        self.page.get_by_role("button", name="Try it as a student").click()
        task = self.page.get_by_role("region", name="Worksheet")
        expect(task.get_by_text("Your own trial, 0 of 3 steps done")).to_be_visible()
        self.page.goto(address)
        expect(self.page.get_by_text("The class: 0 joined, 0 handed in")).to_be_visible()


class OfAClassOnAPhone(MakingOne):
    width, height = 390, 844

    def test_made_and_joined(self) -> None:
        code = self.make()
        self.page.get_by_text("The course’s settings, which hold in every copy").click()
        self.page.get_by_label("A span for").select_option(index=1)
        self.check("a worksheet on a phone")
        self.page.goto("/join")
        self.check("joining on a phone")
        self.join_on_a_phone(code)
        self.check("a copy on a phone")

    def join_on_a_phone(self, code: str) -> None:
        self.page.goto(f"/join/{code}")
        self.page.get_by_label("Your name").fill("Ann")
        self.page.get_by_role("button", name="Begin").click()
        expect(self.page.get_by_test_id("saving")).to_be_attached()
        self.panel("Page")
        expect(self.page.get_by_role("region", name="Worksheet")).to_be_visible()
