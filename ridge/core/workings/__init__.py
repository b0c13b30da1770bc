"""Derivations, step by step, as data: one file a working."""

from ridge.core.workings.work import WORKINGS, Working, work

__all__ = ["WORKINGS", "Working", "work"]
