"""What HTTP asks of every answer of the API (RFC 9110, sections 9.3.2, 9.3.7 and 15.5.6; RFC 9111, section 5.2.2.5)."""

from __future__ import annotations

from datetime import timedelta

from django.conf import settings
from django.test import TestCase


class OfTheApi(TestCase):
    def setUp(self) -> None:
        made = self.client.post("/api/studies", {"sample": "tide"}, content_type="application/json").json()
        self.at = f"/api/studies/{made['id']}"

    def test_answers_are_kept_by_nobody(self) -> None:
        for path in ("/api/shelf", self.at, f"{self.at}/readings.csv", "/api/nothing", "/api/studies/no-such"):
            self.assertEqual(self.client.get(path)["Cache-Control"], "no-store", path)

    def test_head_is_get_without_the_body(self) -> None:
        for path in (self.at, "/api/shelf", f"{self.at}/readings.csv"):
            whole, head = self.client.get(path), self.client.head(path)
            self.assertEqual((head.status_code, head.content), (200, b""), path)
            self.assertEqual(int(head["Content-Length"]), len(whole.content), path)
            self.assertEqual(head["Content-Type"], whole["Content-Type"])
        self.assertEqual(self.client_class().head(self.at).status_code, 404)

    def test_options_tell_the_methods(self) -> None:
        told = self.client.options(self.at)
        self.assertEqual((told.status_code, told["Allow"]), (204, "DELETE, GET, HEAD, OPTIONS"))

    def test_a_wrong_method_is_told_so(self) -> None:
        refused = self.client.put(self.at, {}, content_type="application/json")
        self.assertEqual((refused.status_code, refused["Allow"]), (405, "DELETE, GET, HEAD, OPTIONS"))
        self.assertEqual(refused.json()["message"], "This address is not asked in this way.")

    def test_the_guests_cookie_is_renewed_with_every_visit(self) -> None:
        first = self.client.cookies["ridge-test-session"].value
        again = self.client.get("/api/shelf").cookies["ridge-test-session"]
        self.assertEqual(again["max-age"], timedelta(days=90).total_seconds())
        self.assertTrue(first and again.value)
        self.assertEqual(settings.SESSION_COOKIE_AGE, again["max-age"])
