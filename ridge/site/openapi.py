"""The OpenAPI document as text, the same for the same API.

``python -m ridge.site.openapi FILE SCHEMA`` writes it and the schema of study files; the client's types are generated from the
first.
"""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

import django


def openapi_document() -> str:
    """Indented JSON with sorted keys. Django has to be set up."""
    from ninja.responses import NinjaJSONEncoder

    from ridge.site.api import api

    schema = api.get_openapi_schema(path_prefix="/api/")
    return json.dumps(schema, cls=NinjaJSONEncoder, indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridge.site.settings")
    django.setup()
    from ridge.studies.out.study_file import study_schema

    Path(sys.argv[1]).write_text(openapi_document())
    Path(sys.argv[2]).write_text(study_schema())
