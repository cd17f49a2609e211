"""The library in public: what it offers is documented, with examples that run; it stands without the rest."""

import doctest
import importlib
import inspect
import pkgutil
import re
import subprocess
import sys
from pathlib import Path

import neatveil
import numpy as np
import pytest
from neatveil import arrays
from numpydoc.docscrape import NumpyDocString

ROOT = Path(__file__).parents[2]
PAGES = ROOT / "docs" / "reference"
#: The packages that other people may build on; the rest serves the application.
PUBLIC = re.findall(r"^    neatveil\.(\w+)", neatveil.__doc__, re.M)
KEYS = set(re.findall(r"@\w+\{(\w[\w-]*),", (ROOT / "BIBLIOGRAPHY.bib").read_text("utf-8")))


def functions():
    found = {}
    for package in PUBLIC:
        module = importlib.import_module(f"neatveil.{package}")
        for name in module.__all__:
            function = inspect.unwrap(getattr(module, name))
            if inspect.isfunction(function):
                found[f"{package}.{name}"] = function
    return found


def lacking(function):
    """What its docstring does not say."""
    doc = NumpyDocString(inspect.getdoc(function) or "")
    signature = inspect.signature(function)
    told = {n.strip().lstrip("*") for p in doc["Parameters"] for n in p.name.split(",")}
    missing = [f"parameter {n}" for n in signature.parameters if n not in told]
    if signature.return_annotation not in (None, "None") and not doc["Returns"]:
        missing.append("what it returns")
    if not doc["Examples"]:
        missing.append("an example")
    return missing


def test_every_public_function_says_what_goes_in_and_out_and_shows_it():
    found = {name: lacking(f) for name, f in functions().items()}
    assert len(found) > 60
    assert {n: m for n, m in found.items() if m} == {}


def test_a_parameter_that_is_a_picture_states_its_shape_and_alpha():
    """Of the functions on arrays: the shape, the order of its channels, the state of its alpha."""
    for name in arrays.__all__:
        function = getattr(arrays, name)
        if not inspect.isfunction(function):
            continue
        for parameter in NumpyDocString(inspect.getdoc(function))["Parameters"]:
            words = " ".join([parameter.name, parameter.type, *parameter.desc])
            if "(H, W, 4)" in words:
                assert re.search("straight|premultiplied|state", words), f"{name}: {words}"
                assert re.search("R, G, B, A|state of", words), f"{name}: {words}"


def test_sources_are_keys_of_the_bibliography():
    cited = set()
    for function in functions().values():
        cited |= set(re.findall(r"\[([A-Z]\w*\d[\w-]*|ICC|OpenEXR|PNG)\]", inspect.getdoc(function)))
    assert len(cited) > 10
    assert cited <= KEYS


def test_errors_that_are_named_are_there():
    from neatveil import errors

    for name, function in functions().items():
        for row in NumpyDocString(inspect.getdoc(function))["Raises"]:
            for error in row.type.split(","):
                assert hasattr(errors, error.strip()), f"{name} names {error}"


def modules():
    return [
        m.name for m in pkgutil.walk_packages(neatveil.__path__, "neatveil.") if m.name != "neatveil.io.child"
    ]


@pytest.mark.parametrize("name", modules())
def test_examples_in_docstrings(name):
    module = importlib.import_module(name)
    result = doctest.testmod(module, extraglobs={"np": np})
    assert result.failed == 0


def test_the_reference_pages_list_what_is_public(tmp_path):
    """Built by the documentation tool, whose inventory is what a reader can find."""
    from sphinx.util.inventory import InventoryFile

    done = subprocess.run(
        [sys.executable, "-m", "sphinx", "-q", "-W", "-b", "html", str(PAGES), str(tmp_path)],
        capture_output=True, text=True, timeout=300,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    with (tmp_path / "objects.inv").open("rb") as file:
        inventory = InventoryFile.load(file, "", lambda base, target: target)
    listed = set(inventory["py:function"]) | set(inventory["py:class"]) | set(inventory.get("py:data", {}))
    listed |= set(inventory.get("py:attribute", {}))
    for package in PUBLIC:
        module = importlib.import_module(f"neatveil.{package}")
        assert {f"neatveil.{package}.{n}" for n in module.__all__} <= listed, package
        extra = {n for n in listed if n.rpartition(".")[0] == f"neatveil.{package}"}
        assert extra <= {f"neatveil.{package}.{n}" for n in module.__all__}, package


@pytest.mark.parametrize(("weights", "red"), [("bt601", 0.299), ("bt709", 0.2126), ("bt2020", 0.2627)])
def test_luma_weights_of_the_standards(weights, red):
    """ITU-R BT.601-7, BT.709-6, BT.2020-2 [BT601] [BT709] [BT2020]."""
    assert arrays.luma(np.array([[1, 0, 0]], np.float32), weights)[0] == pytest.approx(red, abs=1e-7)
    assert arrays.luma(np.ones((1, 3), np.float32), weights)[0] == pytest.approx(1, abs=1e-6)


def test_inputs_are_never_changed():
    rgba = np.random.default_rng(0).random((4, 4, 4), np.float32)
    before = rgba.copy()
    arrays.levels(rgba, gamma=2, channels="rgba")
    arrays.merge("over", rgba, rgba)
    arrays.unpremultiply(rgba)
    for kind in set(arrays.steps()) - {"motion_blur", "depth_blur", "fog", "relight"}:  # they need data
        second = rgba if kind in {"patch", "combine"} else None
        arrays.step(kind, rgba, second)
    arrays.matte(rgba, [{"kind": "channel", "channel": "luma"}], grow=1, soften=1)
    arrays.transform(rgba, x=1.5, rotation=20)
    arrays.extend_edge(rgba)
    np.testing.assert_array_equal(rgba, before)
