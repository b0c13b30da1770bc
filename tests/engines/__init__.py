"""The main job in browser engines other than Chromium: ``./run engines``. Not part of ``./run test``."""
