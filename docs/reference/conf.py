"""How Sphinx builds the reference pages: ``python -m sphinx docs/reference FOLDER``."""

# autodoc would import them with TYPE_CHECKING set, where models know less of their fields
import neatveil.arrays
import neatveil.delivery
import neatveil.scene  # noqa: F401

project = "neatveil"
extensions = ["sphinx.ext.autodoc", "numpydoc"]
html_theme = "alabaster"
autodoc_default_options = {"members": True, "imported-members": True, "undoc-members": True}
numpydoc_show_class_members = False
# an example of one page may build on a name of another
suppress_warnings = ["ref.any"]
