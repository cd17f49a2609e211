"""Neat Veil's arithmetic: pictures with alpha, read, merged, changed and written exactly.

Nothing here knows of the web application. Start with `neatveil.arrays` for NumPy arrays,
`neatveil.comp` for the comp document, `neatveil.evaluate` to compute it.
"""

__version__ = "0.1.0"
