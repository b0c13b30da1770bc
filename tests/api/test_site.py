"""The site around the API: policy, settings for real use, generated types, backups."""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path

from django.core.management import CommandError, call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase, tag

from ridge.accounts.models import User
from ridge.site.openapi import openapi_document
from ridge.studies.content.samples import SAMPLES
from ridge.studies.content.state import empty_study
from ridge.studies.content.store import create_study
from ridge.studies.models import Study

ROOT = Path(__file__).parent.parent.parent
WEB = ROOT / "web"


class Policy(TestCase):
    def test_the_page_allows_no_script_of_its_own(self) -> None:
        response = self.client.get("/")
        policy = response["Content-Security-Policy"]
        self.assertIn("script-src 'self';", policy + ";")
        self.assertNotIn("unsafe", policy)
        self.assertNotIn(b"<script>", response.content)
        self.assertEqual(response["X-Frame-Options"], "DENY")

    def test_an_unknown_address_says_so(self) -> None:
        self.assertEqual(self.client.get("/no/such/page").status_code, 404)


class RealUse(TestCase):
    def test_deploy_check_is_clean_and_the_secret_is_kept(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            # The browser tests switch a safety check off for themselves, which the deploy check would report.
            inherited = {name: value for name, value in os.environ.items() if name != "DJANGO_ALLOW_ASYNC_UNSAFE"}
            environment = {**inherited, "RIDGE_MODE": "serve", "RIDGE_HOSTS": "ridge.example", "RIDGE_DATA": folder}
            command = [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
            for _ in range(2):
                result = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True)
                self.assertEqual(result.returncode, 0, result.stderr)
            secret = Path(folder) / "serve-secret.txt"
            self.assertGreater(len(secret.read_text()), 50)
            self.assertEqual(secret.stat().st_mode & 0o077, 0)

    def test_tls_is_demanded_for_as_much_as_the_owner_says(self) -> None:
        show = "from django.conf import settings as s; print(s.SECURE_HSTS_SECONDS, s.SECURE_HSTS_INCLUDE_SUBDOMAINS)"
        with tempfile.TemporaryDirectory() as folder:
            serving = {**os.environ, "RIDGE_MODE": "serve", "RIDGE_HOSTS": "ridge.example", "RIDGE_DATA": folder}
            for more, expected in (
                ({}, f"{365 * 86400} False"),
                ({"RIDGE_HSTS_DAYS": "1", "RIDGE_HSTS_SUBDOMAINS": "1"}, "86400 True"),
            ):
                command = [sys.executable, "manage.py", "shell", "-v0", "-c", show]
                result = subprocess.run(command, cwd=ROOT, env={**serving, **more}, capture_output=True, text=True)
                self.assertEqual(result.stdout.strip(), expected, result.stderr)

    @tag("sqlite")
    def test_the_database_is_set_up_for_several_writers(self) -> None:
        with connection.cursor() as cursor:
            for pragma, value in (("journal_mode", "wal"), ("foreign_keys", 1), ("busy_timeout", 20000)):
                cursor.execute(f"PRAGMA {pragma}")
                self.assertEqual(cursor.fetchone()[0], value)


class Generated(TestCase):
    def test_the_openapi_document_is_not_stale(self) -> None:
        self.assertEqual((WEB / "openapi.json").read_text(), openapi_document(), "run ./run types")

    def test_the_clients_types_are_not_stale(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            fresh = Path(folder) / "schema.d.ts"
            tool = WEB / "node_modules" / ".bin" / "openapi-typescript"
            command = [str(tool), "openapi.json", "-o", str(fresh), "--default-non-nullable=false"]
            subprocess.run(command, cwd=WEB, check=True, capture_output=True)
            self.assertEqual((WEB / "src" / "api" / "schema.d.ts").read_text(), fresh.read_text(), "run ./run types")

    def test_migrations_match_the_models(self) -> None:
        call_command("makemigrations", "--check", "--dry-run", verbosity=0)


@tag("sqlite")
class Backups(TransactionTestCase):
    def test_a_copy_taken_in_use_is_whole(self) -> None:
        create_study(User.objects.create(username="u"), empty_study("Kept"))
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "copy.sqlite3"
            call_command("backup", str(file), verbosity=0, stdout=open(os.devnull, "w"))  # noqa: SIM115
            with closing(sqlite3.connect(file)) as copy:
                self.assertEqual(copy.execute("SELECT title FROM studies_study").fetchall(), [("Kept",)])
            with self.assertRaises(CommandError):
                call_command("backup", str(file))


class Demo(TestCase):
    def test_it_is_loaded_once(self) -> None:
        for _ in range(2):
            call_command("load_demo", stdout=open(os.devnull, "w"))  # noqa: SIM115
        self.assertEqual(Study.objects.count(), len(SAMPLES))
