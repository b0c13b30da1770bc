"""What one person, or one address, may keep and do; said when it is reached, and how to go on."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.test import Client, TestCase, override_settings
from django.utils import timezone

from ridge.accounts import guests
from ridge.accounts.guests import forget_unused
from ridge.accounts.models import User
from ridge.accounts.rates import Rate
from ridge.site import api as site_api
from ridge.studies.models import KeptPicture, Study


def made(client: Client, **body: Any) -> Any:
    return client.post("/api/studies", body, content_type="application/json")


class Kept(TestCase):
    @override_settings(STUDIES_EACH=3)
    def test_studies_until_the_bin_is_emptied(self) -> None:
        keys = [made(self.client).json()["id"] for _ in range(3)]
        self.client.delete(f"/api/studies/{keys[0]}")
        refused = made(self.client)
        self.assertEqual(refused.status_code, 400)
        self.assertIn("You keep 3 studies with those in the bin", refused.json()["message"])
        copied = self.client.post(f"/api/studies/{keys[1]}/duplicate", {}, content_type="application/json")
        self.assertEqual(copied.status_code, 400)
        self.assertEqual(self.client.delete("/api/bin").status_code, 204)
        self.assertEqual(made(self.client).status_code, 201)
        self.assertEqual(Study.objects.filter(pk=keys[0]).count(), 0)
        self.assertEqual(Study.objects.filter(pk=keys[1]).count(), 1)

    def test_the_bin_of_others_is_left_alone(self) -> None:
        other = Client()
        key = made(other).json()["id"]
        other.delete(f"/api/studies/{key}")
        made(self.client)
        self.client.delete("/api/bin")
        Client().delete("/api/bin")
        self.assertEqual(Study.objects.filter(pk=key).count(), 1)

    def test_pictures_go_with_the_last_study_that_names_them(self) -> None:
        first, second = (made(self.client, sample="sheer-line").json()["id"] for _ in range(2))
        self.client.delete(f"/api/studies/{first}")
        self.client.delete("/api/bin")
        self.assertEqual(KeptPicture.objects.count(), 1)
        # Taken off the plot it is still in the history, and can be brought back.
        version = self.client.get(f"/api/studies/{second}").json()["version"]
        taken_off = {"version": version, "change": {"kind": "put_picture", "picture": None}}
        self.client.post(f"/api/studies/{second}/changes", taken_off, content_type="application/json")
        self.client.delete("/api/bin")
        self.assertEqual(KeptPicture.objects.count(), 1)
        self.client.delete(f"/api/studies/{second}")
        self.client.delete("/api/bin")
        self.assertEqual(KeptPicture.objects.count(), 0)

    @override_settings(BYTES_EACH=3_000_000)
    def test_bytes_of_studies_and_histories(self) -> None:
        key = made(self.client).json()["id"]
        said = None
        for version in range(20):
            block = [[f"{row}.{version}", "0" * 100] for row in range(2000)]
            change = {"kind": "set_cells", "row": 0, "column": 0, "block": block}
            body = {"version": version, "change": change}
            said = self.client.post(f"/api/studies/{key}/changes", body, content_type="application/json")
            if said.status_code != 200:
                break
        assert said is not None
        self.assertEqual(said.status_code, 400)
        self.assertRegex(said.json()["message"], "Your studies and their histories have 3 MB; 3 at most")
        # The study stands as it was, and small changes still go.
        study = self.client.get(f"/api/studies/{key}").json()
        self.assertEqual(study["columns"][0]["cells"][1], f"1.{study['version'] - 1}")
        body = {"version": study["version"], "change": {"kind": "edit_study", "title": "Still here"}}
        self.assertEqual(
            self.client.post(f"/api/studies/{key}/changes", body, content_type="application/json").status_code, 200
        )


class Done(TestCase):
    def test_requests_a_minute(self) -> None:
        with patch.object(site_api, "_requests", Rate(5)):
            codes = [self.client.get("/api/shelf").status_code for _ in range(6)]
            self.assertEqual(codes, [200] * 5 + [429])
            refused = self.client.get("/api/shelf")
            self.assertEqual(refused.headers["Retry-After"], "60")
            self.assertIn("Try again in a minute", refused.json()["message"])
            # Somebody else from another address is not concerned.
            self.assertEqual(Client(REMOTE_ADDR="10.0.0.9").get("/api/shelf").status_code, 200)

    def test_a_minute_later(self) -> None:
        rate = Rate(1)
        with patch("ridge.accounts.rates.monotonic", side_effect=[*[rate._began] * 2, rate._began + 61]):
            self.assertEqual([rate.is_kept("a") for _ in range(3)], [True, False, True])

    def test_new_guests_from_one_address(self) -> None:
        with patch.object(guests, "_new_guests", Rate(2)):
            codes = [made(Client()).status_code for _ in range(3)]
            self.assertEqual(codes, [201, 201, 429])
            self.assertEqual(made(Client(REMOTE_ADDR="10.0.0.9")).status_code, 201)

    @override_settings(SERVING=True)
    def test_the_address_is_the_one_that_the_proxy_saw(self) -> None:
        """The proxy adds it behind whatever was sent: what a person writes there themselves counts for nothing."""
        with patch.object(guests, "_new_guests", Rate(1)):
            sent = ["1.1.1.1, 10.0.0.5", "2.2.2.2, 10.0.0.5", "3.3.3.3, 10.0.0.6"]
            codes = [made(Client(headers={"X-Forwarded-For": one})).status_code for one in sent]
            self.assertEqual(codes, [201, 429, 201])


class Unused(TestCase):
    def test_guests_go_when_their_cookie_has_run_out(self) -> None:
        used, unused, account = Client(), Client(), User.objects.create(username="teacher")
        for client in (used, unused):
            made(client)
        long_ago = timezone.localdate() - timedelta(days=91)
        User.objects.all().update(last_visit=long_ago)
        used.get("/api/shelf")
        self.assertEqual(forget_unused(), 1)
        self.assertEqual(len(used.get("/api/shelf").json()["cards"]), 1)
        self.assertEqual(Study.objects.count(), 1)
        self.assertTrue(User.objects.filter(pk=account.pk).exists())
