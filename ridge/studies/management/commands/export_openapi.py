"""Writes the API's OpenAPI document, from which the client's types are generated."""

from __future__ import annotations

from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from ridge.site.openapi import openapi_document


class Command(BaseCommand):
    help = "Write the OpenAPI document."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        file.write_text(openapi_document())
