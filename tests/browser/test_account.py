"""An account: studies kept out of a guest's hands into it, reached from another browser, a lost password, and the end of it."""

from __future__ import annotations

import re
import tempfile

from django.test import override_settings
from playwright.sync_api import Page, expect

from tests.browser.test_access import Screens

FILES = "django.core.mail.backends.filebased.EmailBackend"
GOOD, OTHER = "a long walk on the pier", "two herons by the sluice"


class Account(Screens):
    def fill_in(self, page: Page, form: str, **given: str) -> None:
        held = page.get_by_role("form", name=form)
        for label, text in given.items():
            held.get_by_label(label.replace("_", " "), exact=True).fill(text)
        held.get_by_role("button").last.click()

    def test_kept_reached_elsewhere_and_deleted(self) -> None:
        self.expected_problem = "400"
        self.open_sample("Salinity probe, calibration")
        self.open_shelf()
        self.page.get_by_role("button", name="Keep my studies").click()
        self.check("account of a guest")
        self.fill_in(self.page, "Keep my studies", Name="Tarn", Password="short")
        expect(self.page.get_by_role("alert")).to_contain_text("too short")
        self.fill_in(self.page, "Keep my studies", Name="Tarn", Password=GOOD)
        codes = self.page.get_by_role("alert").get_by_role("listitem")
        expect(codes).to_have_count(8)
        self.check("recovery codes")
        code = codes.first.inner_text()
        self.page.get_by_role("button", name="I have kept them").click()
        expect(self.page.get_by_text("Signed in as Tarn. One study on the shelf.")).to_be_visible()
        self.check("account")
        with self.page.expect_download() as saved:
            self.page.get_by_role("link", name="Take everything along").click()
        self.assertEqual(saved.value.suggested_filename, "ridge-studies.zip")

        other = self.new_page(self.new_context())
        other.goto("/account")
        self.fill_in(other, "Sign in", Name="Tarn", Password="wrong")
        expect(other.get_by_role("alert")).to_contain_text("do not belong together")
        other.get_by_role("button", name="Lost your password?").click()
        self.fill_in(other, "By a recovery code", Name="tarn", Recovery_code=code, New_password=OTHER)
        expect(other.get_by_text("7 are left for a lost password")).to_be_visible()
        other.get_by_role("button", name="To the shelf").click()
        expect(other.get_by_role("link", name="Salinity probe, calibration")).to_be_visible()
        expect(other.get_by_role("button", name="Tarn")).to_be_visible()

        # The first browser is signed out by the new password: it is a guest again, and signs in.
        self.page.reload()
        self.fill_in(self.page, "Sign in", Name="Tarn", Password=OTHER)
        expect(self.page.get_by_text("Signed in as Tarn")).to_be_visible()
        self.page.get_by_role("button", name="Sign out everywhere else").click()
        expect(self.page.get_by_text("Signed out everywhere but here.")).to_be_visible()
        other.reload()
        expect(other.get_by_role("button", name="Keep my studies")).to_be_visible()

        self.fill_in(self.page, "Delete the account", Password=OTHER)
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.fill_in(self.page, "Sign in", Name="Tarn", Password=OTHER)
        expect(self.page.get_by_role("alert")).to_contain_text(re.compile("do not belong together"))
        other.context.close()


class ByLetter(Screens):
    def test_a_lost_password(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            override_settings(OUTBOX=True, EMAIL_BACKEND=FILES, EMAIL_FILE_PATH=folder),
        ):
            self.page.goto("/account")
            held = self.page.get_by_role("form", name="Keep my studies")
            held.get_by_label("Name").fill("Reed")
            held.get_by_label("Password").fill(GOOD)
            held.get_by_label("E-mail, if you like").fill("reed@pier.example")
            held.get_by_role("button").click()
            expect(self.page.get_by_text("Letters go to reed@pier.example.")).to_be_visible()
            other = self.new_page(self.new_context())
            other.goto("/account")
            other.get_by_role("button", name="Lost your password?").click()
            held = other.get_by_role("form", name="By e-mail")
            held.get_by_label("Name or e-mail").fill("reed")
            held.get_by_role("button").click()
            expect(other.get_by_role("status").filter(has_text="the letter is on its way")).to_be_visible()
            first, self.page = self.page, other
            self.check("a lost password")
            other.get_by_role("button", name="The letters of this demo").click()
            link = other.get_by_role("article").get_by_role("link")
            for _ in range(60):
                if link.count():
                    break
                other.reload()
                other.wait_for_timeout(500)
            self.check("letters")
            link.click()
            held = other.get_by_role("form", name="Choose a new password")
            held.get_by_label("New password").fill(OTHER)
            held.get_by_role("button").click()
            expect(other.get_by_text("Signed in as Reed")).to_be_visible()
            expect(held).to_have_count(0)
            self.assertTrue(other.url.endswith("/account"))
            self.page = first
            other.context.close()


class InTwoPlaces(Screens):
    def edit(self, page: Page, text: str) -> None:
        cell = (
            page.get_by_role("grid", name="Readings")
            .locator('[role=row][aria-rowindex="2"]')
            .get_by_role("gridcell")
            .nth(1)
        )
        cell.click()
        page.keyboard.type(text)
        page.keyboard.press("Enter")
        expect(page.get_by_test_id("saving")).to_have_attribute("data-state", "saved")

    def expect_first(self, page: Page, text: str) -> None:
        cell = (
            page.get_by_role("grid", name="Readings")
            .locator('[role=row][aria-rowindex="2"]')
            .get_by_role("gridcell")
            .nth(1)
        )
        expect(cell).to_contain_text(text)

    def test_two_windows_of_one_browser(self) -> None:
        self.open_sample("Salinity probe, calibration")
        second = self.new_page(self.context)
        second.goto(self.page.url)
        expect(second.get_by_test_id("curve").first).to_be_attached()
        self.edit(self.page, "31.25")
        self.expect_first(second, "31.25")
        self.edit(second, "32.5")
        self.expect_first(self.page, "32.5")

    def test_two_computers_of_one_account(self) -> None:
        self.open_sample("Salinity probe, calibration")
        study = self.page.url
        self.page.goto("/account")
        held = self.page.get_by_role("form", name="Keep my studies")
        held.get_by_label("Name").fill("Holm")
        held.get_by_label("Password").fill(GOOD)
        held.get_by_role("button").click()
        expect(self.page.get_by_text("Signed in as Holm")).to_be_visible()
        other = self.new_page(self.new_context())
        other.goto("/account")
        held = other.get_by_role("form", name="Sign in")
        held.get_by_label("Name").fill("Holm")
        held.get_by_label("Password").fill(GOOD)
        held.get_by_role("button").click()
        expect(other.get_by_text("Signed in as Holm")).to_be_visible()
        for page in (self.page, other):
            page.goto(study)
            expect(page.get_by_test_id("curve").first).to_be_attached()
        self.edit(self.page, "31.25")
        self.expect_first(other, "31.25")
        self.edit(other, "32.5")
        self.expect_first(self.page, "32.5")
        other.context.close()


class AccountOnAPhone(Screens):
    width, height = 390, 844

    def test_forms(self) -> None:
        self.page.goto("/account")
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.check("account of a guest on a phone")
