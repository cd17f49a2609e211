"""Configurations of OpenColorIO for tests: one of a reference space, a table and a rule."""

from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio

ENTRIES = 4096
SPACE = "Marsh square"


def square_table(folder: Path) -> Path:
    """A table of ``x * x`` over 0..1, in the library's plain format of one curve."""
    rows = "\n".join(f"{float(v):.9f}" for v in np.linspace(0, 1, ENTRIES) ** 2)
    path = folder / "luts" / "square.spi1d"
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(f"Version 1\nFrom 0.0 1.0\nLength {ENTRIES}\nComponents 1\n{{\n{rows}\n}}\n")
    return path


def config_with_a_table(source: str = "square.spi1d", search: str = "luts") -> ocio.Config:
    """ACES2065-1, a space whose codes are the root of its light, and a rule for ``*_marsh.*``."""
    config = ocio.Config()
    config.setVersion(2, 1)
    config.setSearchPath(search)
    reference = ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, "ACES2065-1", encoding="scene-linear")
    config.addColorSpace(reference)
    table = ocio.FileTransform(source, interpolation=ocio.INTERP_LINEAR)
    made = ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, SPACE, toReference=table)
    config.addColorSpace(made)
    config.addColorSpace(ocio.ColorSpace(ocio.REFERENCE_SPACE_SCENE, "stored", isData=True))
    config.setRole("aces_interchange", "ACES2065-1")
    config.setRole("scene_linear", "ACES2065-1")
    config.setRole("default", "ACES2065-1")
    config.addDisplayView("desk", "squared", SPACE)
    config.addDisplayView("desk", "Raw", "stored")
    rules = ocio.FileRules()
    rules.insertRule(0, "marsh", SPACE, "*_marsh", "*")
    config.setFileRules(rules)
    return config


def archive(folder: Path, name: str = "marsh.ocioz") -> Path:
    """The configuration with its table, in one file, as the library writes it."""
    square_table(folder)
    config = config_with_a_table()
    config.setWorkingDir(str(folder))
    path = folder / name
    config.archive(str(path))
    return path
