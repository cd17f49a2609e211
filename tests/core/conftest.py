"""Kernels may compile on their first call: a deadline would time the compiler."""

from hypothesis import settings

settings.register_profile("neatveil", deadline=None, max_examples=60, database=None)
settings.load_profile("neatveil")
