"""Entry point for gunicorn."""

import gc
import os
from importlib import import_module

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridge.site.settings")
application = get_wsgi_application()
# Django would load the addresses, and the numerical libraries with them, on the first request.
import_module("ridge.site.urls")
# What is loaded by now stays for good: the collector of garbage need not walk through it, nor need the workers copy it.
gc.collect()
gc.freeze()
