"""Answers that are files: how they are sent, and how the OpenAPI document tells of them."""

from __future__ import annotations

import re
from typing import Any

from django.http import HttpResponse


def as_file(body: bytes, media_type: str, title: str, ending: str) -> HttpResponse:
    """To be saved under the title of its study."""
    name = re.sub(r"[^A-Za-z0-9]+", "-", title).strip("-").lower()[:60] or "study"
    response = HttpResponse(body, content_type=media_type)
    response["Content-Disposition"] = f'attachment; filename="{name}.{ending}"'
    return response


def gives_file(*media_types: str) -> dict[str, Any]:
    """For a route: its answer is a file of one of these types."""
    bytes_, whole = {"type": "string", "format": "binary"}, {"type": "object"}
    content = {one.partition(";")[0]: {"schema": whole if one == "application/json" else bytes_} for one in media_types}
    return {"responses": {200: {"description": "The file.", "content": content}}}
