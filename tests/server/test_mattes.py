"""What the desk asks while a matte is made: board, card, figures, values, looks at mattes alone."""

import base64
import copy

import cv2
import numpy as np
import pytest
from core.pictures import save_png
from server.test_comp_looks import picture, problems

SQUARE = {"kind": "shape", "shape": "rectangle", "width": 32, "height": 24}


def cut(comp, *parts, **matte):
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0]["matte"] = {"parts": list(parts), **matte}
    return draft


@pytest.fixture
def ask(ada, comp):
    def make(what, **body):
        return ada("POST", f"comps/{comp['id']}/matte/{what}", {"layer": "a", "frame": 1, **body})

    return make


def test_the_board_sorts_channels_and_shows_each(ask):
    """An orange disc over nothing: all of it differs, hue and saturation at least as alpha does."""
    got = ask("board", stay=[[28, 20, 36, 28]], go=[[0, 0, 8, 8]]).json()
    assert {"alpha", "luma", "red", "blue", "hue", "red-green"} <= {c["channel"] for c in got}
    overlaps = [c["overlap"] for c in got]
    assert overlaps == sorted(overlaps)
    red = next(c for c in got if c["channel"] == "red")
    assert red["contrast"] == pytest.approx(0.8, abs=0.01)
    assert not red["inverted"]
    data = np.frombuffer(base64.b64decode(red["picture"]), np.uint8)
    grey = cv2.imdecode(data, cv2.IMREAD_GRAYSCALE)
    assert (grey[24, 32], grey[2, 2]) == (255, 0)


@pytest.mark.parametrize(("stay", "go", "told"), [
    ([], [[0, 0, 8, 8]], "Nothing is marked of what stays"),
    ([[0, 0, 64, 48]], [[0, 0, 8, 8]], "whole picture is marked"),
    ([[900, 900, 950, 950]], [[0, 0, 8, 8]], "beside the picture"),
])  # fmt: skip
def test_regions_that_tell_nothing(ask, stay, go, told):
    answer = ask("board", stay=stay, go=go)
    assert answer.status_code == 422
    assert told in answer.json()["message"]


def test_a_card_is_picked_from_a_region_and_grey_is_none(ada, project, comp, ask, png):
    answer = ask("screen", within=[28, 20, 36, 28])
    assert answer.status_code == 422
    assert "neither green nor blue" in answer.json()["message"]
    green = ada.bring(project.pk, {"card.png": png(colour=(0.1, 0.7, 0.2))})[0]
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0]["element"] = green["key"]
    got = ask("screen", within=[28, 20, 36, 28], document=draft).json()
    assert got["screen"] == "green"
    # IEC 61966-2-1: code 0.7 is light 0.448
    assert got["screen_colour"][1] == pytest.approx(0.448, abs=5e-3)
    assert got["black"] == pytest.approx(0, abs=2e-3), "a card without noise"


def test_how_much_is_kept_removed_and_between(comp, ask):
    got = ask("figures", document=cut(comp, SQUARE)).json()
    assert got["kept"] == pytest.approx(0.25, abs=0.04)
    assert got["kept"] + got["between"] + got["removed"] == pytest.approx(1)
    assert sum(got["counts"]) == 32 * 24
    assert got["change"] == 0


def test_flicker_is_the_change_from_a_frame_to_the_next(comp, ask):
    stroke = {"points": [0, 0], "size": 20, "soft": 0, "first": 2, "last": 2}
    draft = cut(comp, {"kind": "paint", "strokes": [stroke]})
    got = [ask("figures", document=draft, frame=f, before=f - 1).json()["change"] for f in (2, 3)]
    assert got == [pytest.approx(np.pi * 100 / (64 * 48), rel=0.1)] * 2
    assert ask("figures", document=draft, frame=3, before=1).json()["change"] == 0


def test_a_layer_without_a_matte_says_so(ask):
    answer = ask("figures")
    assert answer.status_code == 422
    assert "has no matte" in answer.json()["message"]


def test_values_below_a_parts_levels(ask):
    got = ask("values", part={"channel": "alpha", "low": 0.4, "high": 0.6}).json()
    assert (got["low"], got["high"]) == (0, 1)
    assert got["counts"][0] > 300
    assert got["counts"][-1] > 300


def test_a_layer_is_matched_to_another(ada, comp):
    """The same disc twice, one a stop darker: the gain that is measured is 2; what cannot be says why."""
    draft = copy.deepcopy(comp["document"])
    front = draft["layers"][0]
    back = {**copy.deepcopy(front), "id": "back", "name": "back"}
    grey = {"kind": "grain", "amount": [0.1, 0.1, 0.1], "size": 0.5, "tone": 0.0}
    back["steps"], front["steps"] = [grey], [grey, {"kind": "exposure", "stops": -1.0}]
    draft["layers"] = [back, front]
    box = [24, 16, 40, 32]
    ask = {"document": draft, "frame": 1, "layer": "a", "plate": "back", "own": box, "there": box}
    got = ada("POST", f"comps/{comp['id']}/match", {**ask, "what": "tone"}).json()
    assert got["kind"] == "tone"
    assert got["gain"] == pytest.approx([2, 2, 2], rel=0.02)
    got = ada("POST", f"comps/{comp['id']}/match", {**ask, "what": "grain"}).json()
    assert got["amount"] == pytest.approx([0.1 * 0.75**0.5] * 3, rel=0.25), "the rest of twice as much"
    answer = ada("POST", f"comps/{comp['id']}/match", {**ask, "what": "grain", "own": [24, 16, 28, 20]})
    assert answer.status_code == 422
    assert "too small to tell grain" in answer.json()["message"]


def test_a_matte_alone_a_part_of_it_and_none_of_it(ada, comp):
    draft = cut(comp, SQUARE, {**SQUARE, "combine": "subtract", "x": 16})
    look = {"channel": "alpha"}
    asks = {"document": draft, "layer": "a", "extent": "layer", "look": look}
    both = picture(ada, comp, **asks)[..., 0]
    second = picture(ada, comp, **asks, matte={"part": 1})[..., 0]
    none = picture(ada, comp, **asks, uncut=True)[..., 0]
    row = 24
    assert [both[row, x] > 128 for x in (24, 40)] == [True, False]
    assert [second[row, x] > 128 for x in (24, 40)] == [False, True]
    assert [none[row, x] > 128 for x in (24, 40)] == [True, True]


def test_the_matte_of_a_step(ada, comp):
    draft = copy.deepcopy(comp["document"])
    through = {"by": "matte", "matte": {"parts": [SQUARE]}}
    draft["layers"][0]["steps"] = [{"kind": "exposure", "stops": 1, "through": through}]
    asks = {"document": draft, "layer": "a", "extent": "layer", "look": {"channel": "alpha"}}
    assert picture(ada, comp, **asks, matte={"step": 0})[24, 14, 0] == 0
    assert picture(ada, comp, **asks)[24, 30, 0] > 250
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, **asks, "matte": {"step": 4}})
    assert "has no step 5" in answer.json()["message"]


@pytest.mark.parametrize(("part", "told"), [
    ({"source": "layer:gone"}, "not in the comp any more"), ({"channel": "depth.Z"}, "no channel depth.Z"),
    ({"kind": "key", "screen_colour": [0.4, 0.4, 0.4]}, "neither green nor blue"),
    ({"kind": "object", "objects": ["post"]}, "no ID ranks"),
])  # fmt: skip
def test_a_matte_that_cannot_be_made_leaves_the_rest_of_the_comp(ada, comp, part, told):
    draft = cut(comp, part)
    draft["layers"].append({"id": "b", "name": "front", "element": draft["layers"][0]["element"]})
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "document": draft})
    assert answer.status_code == 200
    assert told in problems(answer)[0]["message"]
    assert problems(answer)[0]["where"] == "disc"


def test_a_source_of_another_size_or_length_is_stretched_and_held(ada, project, comp, png, tmp_path):
    small = cv2.imencode(".png", np.full((6, 8), 255, np.uint8))[1].tobytes()
    row = ada.bring(project.pk, {"small.png": small})[0]
    draft = cut(comp, {"source": row["key"], "channel": "luma"})
    for frame in (1, 3):
        got = picture(ada, comp, document=draft, frame=frame, look={"channel": "alpha"})
        assert got[24, 32, 0] == 255


@pytest.mark.parametrize(("points", "empty"), [
    ([0, 0, 0, 0, 0, 0], True),
    ([v for x, y in ((-9, -9), (9, 9), (9, -9), (-9, 9)) for v in (x, y, 0, 0, 0, 0)], False),
])  # fmt: skip
def test_one_point_and_self_crossing_shapes(ada, comp, points, empty):
    draft = cut(comp, {"kind": "shape", "shape": "free", "points": points})
    got = picture(ada, comp, document=draft, look={"channel": "alpha"})[..., 0]
    assert (got.max() == 0) == empty


def test_too_many_strokes_are_refused_and_nothing_is_lost(ada, comp):
    draft = cut(comp, {"kind": "paint", "strokes": [{"points": [0, 0]}] * 10001})
    answer = ada("PUT", f"comps/{comp['id']}", {"base": comp["revision"], "document": draft})
    assert answer.status_code == 422
    assert "10000" in answer.content.decode()
    assert ada("GET", f"comps/{comp['id']}").json()["document"] == comp["document"]


def shot_of(codes, ada, project, comp, tmp_path):
    """The comp with its first layer an opaque picture of these codes."""
    save_png(tmp_path / "shot.png", np.dstack([codes, np.ones(codes.shape[:2])]).astype(np.float32))
    shot = ada.bring(project.pk, {"shot.png": (tmp_path / "shot.png").read_bytes()})[0]
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0] |= {"element": shot["key"], "steps": []}
    return draft


def test_a_thing_with_spill_is_whole_after_one_drag(ada, project, comp, ask, tmp_path):
    """Grey with some of the card's light on it: the proposed white end closes its core."""
    codes = np.broadcast_to([0.15, 0.6, 0.2], (48, 64, 3)).copy()
    codes[14:44, 20:50] = [0.5, 0.56, 0.5]
    draft = shot_of(codes, ada, project, comp, tmp_path)
    part = {"kind": "key", "evenness": "even"}
    got = ask("screen", within=[4, 2, 60, 10], document=draft, part=part).json()
    assert 0.5 < got["white"] < 0.9
    kept = []
    for white in (1.0, got["white"]):
        whole = {**part, "screen_colour": got["screen_colour"], "black": got["black"], "white": white}
        draft["layers"][0]["matte"] = {"parts": [whole]}
        kept.append(ask("figures", document=draft).json()["kept"])
    assert kept[0] < 0.01
    assert kept[1] == pytest.approx(30 * 30 / (48 * 64), abs=0.01)


def test_a_noisy_card_sets_its_own_black_end(ada, project, comp, ask, tmp_path):
    """One drag: what the key keeps of the clean card then is nothing, but for a few pixels."""
    rng = np.random.default_rng(2)
    codes = np.clip(np.array([0.15, 0.6, 0.2]) + rng.normal(0, 0.02, (48, 64, 3)), 0, 1)
    draft = shot_of(codes, ada, project, comp, tmp_path)
    part = {"kind": "key", "evenness": "even"}
    got = ask("screen", within=[4, 4, 60, 44], document=draft, part=part).json()
    assert 0.01 < got["black"] < 0.25
    removed = []
    for black in (0.0, got["black"]):
        draft["layers"][0]["matte"] = {
            "parts": [{**part, "screen_colour": got["screen_colour"], "black": black}]
        }
        removed.append(ask("figures", document=draft).json()["removed"])
    assert removed[0] < 0.75
    assert removed[1] > 0.99
