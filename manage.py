#!/usr/bin/env python
"""Django's command line. ``./run`` calls it with the right settings."""

import os
import sys

from django.core.management import execute_from_command_line

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridge.site.settings")
    os.environ.setdefault("RIDGE_MODE", "test" if "test" in sys.argv[1:2] else "demo")
    execute_from_command_line(sys.argv)
