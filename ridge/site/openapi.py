"""The OpenAPI document as text, the same for the same API."""

from __future__ import annotations

import json

from ninja.responses import NinjaJSONEncoder

from ridge.site.api import api


def openapi_document() -> str:
    """Indented JSON with sorted keys."""
    schema = api.get_openapi_schema(path_prefix="/api/")
    return json.dumps(schema, cls=NinjaJSONEncoder, indent=1, sort_keys=True) + "\n"
