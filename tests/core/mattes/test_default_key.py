"""The key as one drag over the card makes it, on shots whose alpha is known."""

import numpy as np
import pytest
from core.mattes.shots import CLEAN, COLOURS, keyed, shots
from neatveil.mattes import KeyPart
from neatveil.mattes.key import black_point_of, white_point_of
from neatveil.mattes.scores import matte_errors


@pytest.fixture(scope="module")
def measured():
    """Of every shot: holes in the core, what stays of the card, errors without and with proposed ends."""
    found = {}
    area = slice(CLEAN.y0, CLEAN.y1), slice(CLEAN.x0, CLEAN.x1)
    for shot in shots():
        colour = tuple(float(np.median(shot.planes[n][area])) for n in "RGB")
        bare = KeyPart(screen_colour=colour, evenness="uneven", balance=0.25)  # as the desk makes it
        kept = keyed(shot.planes, bare)
        black = black_point_of(kept[area])
        rows = []
        for white in (1.0, white_point_of(kept, black)):
            matte = keyed(shot.planes, bare.model_copy(update={"black": black, "white": white}))
            holes, left = (matte[shot.core] < 0.98).mean(), (matte[shot.clear] > 0.02).mean()
            rows.append((float(holes), float(left), matte_errors(matte, shot.alpha)))
        found[shot.name] = rows
    return found


def test_the_core_is_solid_and_the_screen_clear(measured):
    assert len(measured) == 36
    assert sum(rows[1][0] < 0.02 for rows in measured.values()) >= 34
    assert all(rows[1][1] < 0.01 for rows in measured.values())


def test_without_proposed_ends_most_cores_have_holes(measured):
    """Or the shots would ask for nothing."""
    assert sum(rows[0][0] > 0.1 for rows in measured.values()) >= 25


@pytest.mark.parametrize("measure", ["sad", "mse"])
def test_no_shot_is_keyed_worse_than_before(measured, measure):
    for name, (before, after) in ((n, (r[0][2], r[1][2])) for n, r in measured.items()):
        assert getattr(after, measure) <= getattr(before, measure) * 1.02 + 1e-6, name


def test_every_colour_is_nearer_to_the_true_matte(measured):
    """Skin has less green than red before any card: nothing of it is lost in the first place."""
    for colour in set(COLOURS) - {"skin"}:
        before, after = (
            np.mean([rows[i][2].sad for name, rows in measured.items() if name.startswith(colour)])
            for i in (0, 1)
        )
        assert after < 0.6 * before
