"""The library as other people get it: a wheel that states what it needs, and works with nothing else."""

import ast
import email
import os
import shutil
import subprocess
import sys
import zipfile
from importlib.metadata import packages_distributions
from pathlib import Path

import pytest

CORE = Path(__file__).parents[2] / "core"
WORK = """
import numpy as np
from neatveil import arrays
import neatveil.cli, neatveil.delivery, neatveil.scene, neatveil.transcode, neatveil.view
half = np.full((2, 2, 4), 0.5)
print(arrays.merge("over", half, np.ones((2, 2, 4)))[0, 0].tolist())
arrays.write_picture("dot.png", half)
print(arrays.read_picture("dot.png").shape)
"""


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    folder = tmp_path_factory.mktemp("wheel")
    source = shutil.copytree(
        CORE, folder / "core", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info")
    )
    command = [sys.executable, "-m", "pip", "wheel", "-q", "--no-deps", "-w", str(folder), str(source)]
    subprocess.run(command, check=True, capture_output=True, timeout=300)
    return next(folder.glob("*.whl"))


@pytest.fixture(scope="module")
def metadata(wheel):
    with zipfile.ZipFile(wheel) as file:
        name = next(n for n in file.namelist() if n.endswith("/METADATA"))
        return email.message_from_bytes(file.read(name)), set(file.namelist())


def test_it_says_what_it_is(metadata):
    told, files = metadata
    assert told["License-Expression"] == "Apache-2.0"
    assert any(name.endswith("/LICENSE") for name in files)
    assert "arrays.merge" in told.get_payload(), "the README"
    assert "Typing :: Typed" in told.get_all("Classifier")
    assert "neatveil/py.typed" in files


def test_it_holds_every_module(metadata):
    _, files = metadata
    mine = {p.relative_to(CORE).as_posix() for p in (CORE / "neatveil").rglob("*.py")}
    assert mine == {n for n in files if n.startswith("neatveil/") and n.endswith(".py")}


def test_it_requires_what_it_imports_and_nothing_else(metadata):
    told, _ = metadata
    imported = set()
    for path in (CORE / "neatveil").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Import):
                imported |= {a.name.partition(".")[0] for a in node.names}
            elif isinstance(node, ast.ImportFrom) and not node.level and node.module:
                imported.add(node.module.partition(".")[0])
    outside = imported - set(sys.stdlib_module_names) - {"neatveil"}
    known = packages_distributions()
    needed = {known.get(name, [name])[0].lower() for name in outside}
    required = {row.partition(">")[0].strip().lower() for row in told.get_all("Requires-Dist")}
    # what holds the library itself is imported by nothing
    assert needed == required - {"pyvips-binary"}


def test_it_works_in_an_environment_with_nothing_else(wheel, tmp_path):
    home = tmp_path / "empty"
    plain = {k: v for k, v in os.environ.items() if not k.startswith(("PYTHON", "NEATVEIL", "VIRTUAL"))}
    subprocess.run([sys.executable, "-m", "venv", str(home)], check=True, timeout=120)
    python = str(home / "bin" / "python")
    subprocess.run(
        [python, "-m", "pip", "install", "-q", str(wheel)], check=True, env=plain, capture_output=True,
        timeout=500,
    )  # fmt: skip
    done = subprocess.run(
        [python, "-c", WORK], cwd=tmp_path, env={**plain, "NUMBA_CACHE_DIR": str(tmp_path / "numba")},
        capture_output=True, text=True, timeout=300,
    )  # fmt: skip
    assert done.stdout.splitlines() == ["[1.0, 1.0, 1.0, 1.0]", "(2, 2, 4)"], done.stderr
    listed = subprocess.run([python, "-m", "pip", "list"], capture_output=True, text=True, timeout=60).stdout
    assert "django" not in listed.lower()
