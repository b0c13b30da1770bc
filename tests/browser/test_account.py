"""An account: studies kept out of a guest's hands into it, reached from another browser, a lost password, and the end of it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.test_access import Screens

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
        self.fill_in(other, "Lost password", Name="tarn", Recovery_code=code, New_password=OTHER)
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


class AccountOnAPhone(Screens):
    width, height = 390, 844

    def test_forms(self) -> None:
        self.page.goto("/account")
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.check("account of a guest on a phone")
