"""Kernels may compile on their first call: a deadline would time the compiler.

Continuous integration tries the same examples in every run; by hand they are other ones every time.
"""

import os

from hypothesis import settings

settings.register_profile(
    "neatveil", deadline=None, max_examples=60, database=None, derandomize=bool(os.environ.get("CI"))
)
settings.load_profile("neatveil")
