"""Neat Veil's arithmetic: pictures with alpha, read, merged, changed and written exactly.

Nothing here knows of the web application. What other programs may build on:

    neatveil.arrays     all of it on plain NumPy arrays
    neatveil.picture    pictures of named planes, with the alpha's state in the type
    neatveil.alpha      readings, straight and premultiplied
    neatveil.colour     encodings
    neatveil.merge      operators
    neatveil.comp       the comp document
    neatveil.evaluate   computing it
    neatveil.io         files
    neatveil.delivery   writing and proving
    neatveil.scene      scenes that are rendered

Each lists it in ``__all__``; everything else may change with any version.
"""

__version__ = "0.1.0"
