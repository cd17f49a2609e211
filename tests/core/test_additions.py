"""What an addition touches: each kind is added to a copy of the library, and its files are counted.

ARCHITECTURE.md promises these numbers.
"""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path
from textwrap import dedent

import neatveil
import pytest

PACKAGE = Path(neatveil.__file__).parent


@pytest.fixture
def copy(tmp_path):
    """A copy of the library, and its files as they were."""
    shutil.copytree(PACKAGE, tmp_path / "neatveil", ignore=shutil.ignore_patterns("__pycache__"))
    return tmp_path / "neatveil"


def touched(copy):
    """Files of the copy that are new or other than the library's."""
    return sorted(
        p.relative_to(copy).as_posix()
        for p in copy.rglob("*.py")
        if not (PACKAGE / p.relative_to(copy)).exists()
        or (PACKAGE / p.relative_to(copy)).read_bytes() != p.read_bytes()
    )


def run(copy, code):
    """What the code prints as JSON, run on the copy, its kernels as plain Python."""
    env = {**os.environ, "PYTHONPATH": str(copy.parent), "NUMBA_DISABLE_JIT": "1"}
    done = subprocess.run(
        [sys.executable, "-c", dedent(code)], env=env, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)


def write(path, text):
    path.write_text(dedent(text), "utf-8")


def test_a_step_is_one_file(copy):
    write(copy / "steps" / "solarize.py", '''
        """Solarize: values above the middle turned over."""

        from typing import ClassVar, Literal

        from .value import ValueStep


        class SolarizeStep(ValueStep):
            """Above the middle, turned over."""

            title: ClassVar[str] = "Solarize"
            help: ClassVar[str] = "Turns bright values over."

            kind: Literal["solarize"] = "solarize"

            def value(self, x, out):
                out[:] = x
                out[x > 0.5] = 1 - x[x > 0.5]

            def words(self) -> str:
                return "above the middle"
    ''')  # fmt: skip
    assert touched(copy) == ["steps/solarize.py"]
    got = run(
        copy,
        """
        import json
        import numpy as np
        from neatveil.comp import document_schema
        from neatveil.comp.loading import parse_comp
        from neatveil.picture import PremultipliedPicture
        from neatveil.steps import STEPS
        from neatveil.steps.apply import apply_steps

        layer = {"id": "a", "name": "a", "element": "e", "steps": [{"kind": "solarize"}]}
        step = parse_comp({"layers": [layer]}).layers[0].steps[0]
        picture = PremultipliedPicture.from_rgba(np.full((2, 2, 4), (0.8, 0.3, 0.6, 1), np.float32))
        done = apply_steps(picture, [step], 0, 1).rgba()[0, 0].round(3).tolist()
        print(json.dumps({"title": STEPS["solarize"].title, "done": done,
                          "schema": "SolarizeStep" in document_schema()["$defs"]}))
    """,
    )
    assert got["schema"]
    assert got["title"] == "Solarize"
    assert got["done"] == pytest.approx([0.2, 0.3, 0.4, 1])


def test_an_operator_is_one_row(copy):
    table = copy / "merge" / "arithmetic.py"
    row = '    "negative": (lambda f, b: 1 - f - b, "one less both; alpha as over"),\n'
    text = table.read_text("utf-8")
    table.write_text(text.replace('    "min": (', row + '    "min": (', 1), "utf-8")
    assert touched(copy) == ["merge/arithmetic.py"]
    got = run(
        copy,
        """
        import json
        import numpy as np
        from neatveil import arrays
        from neatveil.comp import document_schema

        one = np.full((1, 1, 4), (0.25, 0.5, 0, 1), np.float32)
        enum = document_schema()["$defs"]["Layer"]["properties"]["operator"]["enum"]
        value = arrays.merge("negative", one, one)[0, 0].tolist()
        print(json.dumps({"value": value, "known": "negative" in enum}))
    """,
    )
    assert got == {"value": [0.5, 0, 1, 1], "known": True}


def test_a_pass_is_one_file(copy):
    write(copy / "scene" / "passes" / "facing.py", '''
        """How far a surface is turned towards the camera."""

        from .base import Pass, channels


        def _fill(pixels, _):
            return channels("facing", "Y", pixels.one(pixels.normal[..., 2:]))


        PASS = Pass(
            name="facing", help="Turned towards the camera.", kind="data", filtered=False,
            sample="half", fill=_fill,
        )
    ''')  # fmt: skip
    assert touched(copy) == ["scene/passes/facing.py"]
    got = run(
        copy,
        """
        import json
        from neatveil.scene.passes import PASSES
        from neatveil.scene.setup import parse_setup

        print(json.dumps([parse_setup({"rate": "25", "passes": ["facing"]}).passes, PASSES["facing"].kind]))
    """,
    )
    assert got == [["facing"], "data"]


def test_a_delivery_format_is_one_file(copy):
    text = (copy / "delivery" / "formats" / "png16_straight.py").read_text("utf-8")
    write(
        copy / "delivery" / "formats" / "png16_premultiplied.py",
        text.replace("png16-straight", "png16-premultiplied").replace(
            'codec="png16"', 'codec="png16", alpha="premultiplied"'
        ),
    )
    assert touched(copy) == ["delivery/formats/png16_premultiplied.py"]
    got = run(
        copy,
        """
        import json
        from neatveil.delivery import format_named

        print(json.dumps(format_named("png16-premultiplied").reading.alpha))
    """,
    )
    assert got == "premultiplied"


def test_a_kind_of_matte_part_is_one_file(copy):
    write(copy / "mattes" / "checks.py", '''
        """A board of squares."""

        from typing import ClassVar, Literal

        import numpy as np
        from pydantic import Field

        from .part import Drawn, DrawnPart


        class ChecksPart(DrawnPart):
            """Squares, one kept and one not."""

            title: ClassVar[str] = "Squares"

            kind: Literal["checks"] = "checks"
            size: float = Field(2.0, ge=1, title="size", json_schema_extra={"unit": "px"})

            def drawn(self, height: int, width: int, level: int) -> Drawn:
                side = max(1, round(self.size * 2.0**-level))
                y, x = np.mgrid[:height, :width] // side
                return Drawn(((x + y) % 2).astype(np.float32))
    ''')  # fmt: skip
    assert touched(copy) == ["mattes/checks.py"]
    got = run(
        copy,
        """
        import json
        from neatveil.comp import document_schema
        from neatveil.comp.loading import parse_comp
        from neatveil.mattes.kinds import PARTS

        layer = {"id": "a", "name": "a", "element": "e", "matte": {"parts": [{"kind": "checks", "size": 1}]}}
        matte = parse_comp({"layers": [layer]}).layers[0].matte
        joined = matte.joined([matte.parts[0].drawn(2, 2, 0)]).tolist()
        print(json.dumps({"joined": joined, "title": PARTS["checks"].title,
                          "schema": "ChecksPart" in document_schema()["$defs"]}))
    """,
    )
    assert got == {"joined": [[0, 1], [1, 0]], "title": "Squares", "schema": True}


def test_something_made_here_is_one_file(copy):
    write(copy / "made" / "stripes.py", '''
        """Stripes of two colours."""

        from typing import ClassVar, Literal

        import numpy as np

        from ..picture import RGBA, PremultipliedPicture
        from .base import Canvas, Colour, Made, colour_field


        class StripesMade(Made):
            """Every second row."""

            title: ClassVar[str] = "Stripes"
            help: ClassVar[str] = "Every second row in a colour."

            kind: Literal["stripes"] = "stripes"
            colour: Colour = colour_field("colour")

            def drawn(self, canvas: Canvas) -> PremultipliedPicture:
                rows = (np.arange(canvas.frame.height) % 2).astype(np.float32)[:, None]
                plane = np.repeat(rows, canvas.frame.width, axis=1)
                planes = dict(zip(RGBA, [*(plane * v for v in self.colour), plane]))
                return PremultipliedPicture(planes, canvas.frame, canvas.frame)

            def words(self) -> str:
                return "every second row"
    ''')  # fmt: skip
    assert touched(copy) == ["made/stripes.py"]
    got = run(
        copy,
        """
        import json
        from neatveil.comp import document_schema
        from neatveil.comp.loading import parse_comp
        from neatveil.evaluate import Evaluator
        from neatveil.io import LocalDecoder

        layer = {"id": "a", "name": "a", "kind": "made", "made": {"kind": "stripes"}}
        comp = parse_comp({"width": 2, "height": 2, "layers": [layer]})
        rows = Evaluator(LocalDecoder()).picture(comp, 1)["A"].tolist()
        print(json.dumps({"rows": rows, "schema": "StripesMade" in document_schema()["$defs"]}))
    """,
    )
    assert got == {"rows": [[0, 0], [1, 1]], "schema": True}
