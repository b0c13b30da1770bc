"""The letters of the demo, which has no mail server: they are kept in a folder and shown on a page of their own."""

from __future__ import annotations

import re
from datetime import datetime
from email import message_from_bytes, policy
from pathlib import Path
from typing import NamedTuple

from django.conf import settings

SHOWN = 50
_BETWEEN = re.compile(rb"\n-{79}\n")  # as Django's file backend writes it


class Letter(NamedTuple):
    to: str
    subject: str
    text: str
    sent: datetime | None


def letters() -> list[Letter]:
    """The newest first."""
    folder = Path(settings.EMAIL_FILE_PATH)
    files = sorted(folder.glob("*.log"), key=lambda file: file.stat().st_mtime, reverse=True) if folder.is_dir() else []
    return [_read(part) for file in files[:SHOWN] for part in _BETWEEN.split(file.read_bytes()) if part.strip()]


def _read(data: bytes) -> Letter:
    message = message_from_bytes(data, policy=policy.default)
    body = message.get_body(("plain",))
    sent = message["Date"].datetime if message["Date"] else None
    return Letter(str(message["To"]), str(message["Subject"]), body.get_content() if body else "", sent)
