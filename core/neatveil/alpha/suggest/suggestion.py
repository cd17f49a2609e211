"""Suggesting a reading from the pixels, with what speaks for it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from ...errors import ValueRefused
from ...picture import RGB, StoredPicture, rgb_planes
from ..reading import Reading, colour_words
from .ground import Ground, ground_of, grounds_together, nearest_ground
from .inverted import looks_inverted
from .pairs import Pairs, coarser, pairs_of
from .weigh import Fit, Hypothesis, Multiplied, Weighing, lead

Verdict = Literal["straight", "premultiplied", "cannot-tell"]

#: Fewer pairs than this are chance.
LEAST_PAIRS = 60
#: Least lead of one cost over another, in the mean and in standard errors.
LEAD, ERRORS = 0.06, 2.5
#: Colours nearer than this to black or white are taken as such, code value.
SNAP = 0.012
#: Share of colours out of range that refutes a matte colour, unless the lead is beyond this.
OUT_OF_RANGE, BEYOND_DOUBT = 0.8, 1.0
GOES_ON = "The colour goes on past the edge, as straight colour does."
#: Where no pair is of less alpha than this, the matte colour is an extrapolation.
THIN = 0.35
#: Standard error of a matte colour that is estimated from edges alone, from which on it is left open.
UNCERTAIN = 0.03
#: Mean difference between two readings that nobody would see, code value.
UNSEEN = 0.004


class Candidate(BaseModel):
    """One plausible reading. ``score``: share of the edge pixels that it explains, 0 to 1."""

    model_config = ConfigDict(extra="forbid")

    reading: Reading
    score: float | None = None
    matte_spread: tuple[float, float, float] | None = Field(
        None, description="Standard error of the estimated matte colour, code value."
    )
    evidence: str = ""


class Suggestion(BaseModel):
    """What the pixels say. ``reading`` is None where they do not decide."""

    model_config = ConfigDict(extra="forbid")

    verdict: Verdict
    reading: Reading | None
    reason: str
    sure: bool = Field(False, description="The lead over the other readings is beyond doubt.")
    pairs: int = Field(0, description="Pairs of edge pixels that were compared.")
    candidates: list[Candidate] = []


def suggest(pictures: Sequence[StoredPicture], encoding: str, top: float = 255.0) -> Suggestion:
    """The likely reading of frames with R, G, B and A (or Y and A).

    Parameters
    ----------
    pictures : code values as stored, not clamped.
    encoding : a name in `neatveil.colour.ENCODINGS`.
    top : largest code of the samples: 255, 65535; 2048 for half, whose mantissa has 11 bits.

    Returns
    -------
    Suggestion with every plausible candidate, the likeliest first. Model of the premultiplied ones:
    ``C = F*a + M*(1-a)`` (ISO 32000-1:2008, 11.6.5.3 [ISO32000]).
    """
    frames = [_coloured(p) for p in pictures]
    if not frames:
        raise ValueRefused("No picture was given.", advice="Give one frame at least.")
    if looks_inverted(frames, top):
        return _inverted(frames, encoding, top)
    return _judged(frames, encoding, top)


def _coloured(picture: StoredPicture) -> StoredPicture:
    if not picture.has_alpha:
        raise ValueRefused("The picture has no alpha.", advice="There is nothing to read.")
    colour = rgb_planes(picture)
    if colour is None:
        raise ValueRefused(f"The picture has {', '.join(picture.planes)} and no colour.")
    return picture.with_planes({**colour, "A": picture["A"]})


def _judged(frames: list[StoredPicture], encoding: str, top: float) -> Suggestion:
    ground = grounds_together([ground_of(p, top) for p in frames])
    # over an uneven ground each edge is judged against what lies next to it
    local = ground.kind not in {"plain", "none"}
    pairs = Pairs.joined(
        [
            pairs_of(p, nearest_ground(p, top, ground.kind == "light") if local else None, i)
            for i, p in enumerate(frames)
        ]
    )
    if pairs.count < LEAST_PAIRS:
        return _cannot_tell(frames, pairs.count, ground)
    weighing = Weighing(pairs, encoding, 0.29 / top)
    ways: list[Multiplied] = ["linear"]
    if weighing.encoding != "linear":
        ways.append("encoded")
    fits = {way: weighing.fit(way) for way in ways}
    readings = [Hypothesis()]
    for way in ways:
        matte = _matte(ground, fits[way])
        if matte is not None:
            readings.append(Hypothesis(matte, way, local and ground.colour is not None))
    judged = len(readings)
    if ground.kind == "varied":
        readings.append(Hypothesis((0.0, 0.0, 0.0), ways[0], local=True))
    for usual in ((0.0, 0.0, 0.0), (1.0, 1.0, 1.0)):
        # people expect to see black and white tried, even where nothing speaks for them
        if all(r.matte != usual or (r.local and ground.kind == "varied") for r in readings):
            readings.append(Hypothesis(usual, ways[0]))
    return Judgement(weighing, readings, ground, fits, judged).judgement()


class Judgement:
    """Readings before their evidence: the first is straight, then premultiplied ones."""

    def __init__(
        self, weighing: Weighing, readings: list[Hypothesis], ground: Ground,
        fits: dict[Multiplied, Fit | None], judged: int,
    ) -> None:  # fmt: skip
        self.weighing, self.readings, self.ground, self.fits = weighing, readings, ground, fits
        self.judged = judged
        self.costs = weighing.costs(readings, judged)
        means = self.costs.mean(axis=1)
        single = range(1, judged)
        self.best = min(single, key=lambda i: means[i]) if single else 0
        self.means = means
        self.lead, self.errors = (
            lead(self.costs[0], self.costs[self.best], weighing.pairs.tile) if self.best else (0.0, 0.0)
        )

    def judgement(self) -> Suggestion:
        verdict, reason = self._verdict()
        matte = self.readings[self.best]
        reading = None
        if verdict == "straight":
            reading = Reading(alpha="straight")
        elif verdict == "premultiplied":
            reading = as_reading(matte)
        decided = abs(self.errors) > 2 * ERRORS and abs(self.lead) > 2 * LEAD
        sure = verdict != "cannot-tell" and decided and not self._guessed()
        if verdict == "premultiplied":
            sure = sure and self._multiplied_surely()
        return Suggestion(
            verdict=verdict, reading=reading, reason=reason, sure=sure,
            pairs=self.weighing.pairs.count, candidates=self._candidates(reading),
        )  # fmt: skip

    def _verdict(self) -> tuple[Verdict, str]:
        if self.ground.kind == "varied":
            if self._is_a_picture():
                return "straight", (
                    "The edges fade into a picture that is mixed into the RGB, not into one colour: "
                    "no matte colour can take it out, so it is read as straight."
                )
            return "straight", GOES_ON
        if not self.best:
            return "cannot-tell", "The edge pixels leave the matte colour open."
        over = colour_words(as_reading(self.readings[self.best]).matte)
        if self.weighing.difference(self.readings[self.best]) < UNSEEN:
            if self.readings[self.best].local:
                return "straight", GOES_ON
            return "straight", f"Straight and premultiplied over {over} give the same picture here."
        out = self.weighing.out_of_range(self.readings[self.best])
        if self.ground.kind == "plain" and out > OUT_OF_RANGE and self.lead < BEYOND_DOUBT:
            return "straight", (
                f"Read as premultiplied over {over}, {out:.0%} of the thin pixels would be of colours "
                "that cannot be."
            )
        fit = self.fits[self.readings[self.best].multiplied]
        if self._guessed() and (fit is None or max(fit.spread) > UNCERTAIN):
            return (
                "cannot-tell",
                "No pixel is clear enough to show what lies behind, and the edges leave it open.",
            )
        if self.lead > LEAD and self.errors > ERRORS:
            words = f"Toward the edge the colour moves to {over} just as the alpha falls"
            return "premultiplied", words + (
                "; beyond it lies light." if self.ground.kind == "light" else "."
            )
        if self.lead < -LEAD and self.errors < -ERRORS:
            return "straight", "The colour stays as it is while the alpha falls toward the edge."
        return "cannot-tell", "The edge pixels fit straight and premultiplied about equally well."

    def _guessed(self) -> bool:
        """Whether no clear pixel shows the matte colour and no edge comes near to it either: a veil."""
        return self.ground.kind == "none" and float(np.quantile(self.weighing.pairs.aq, 0.05)) > THIN

    def _multiplied_surely(self) -> bool:
        """Whether it is beyond doubt when the multiplication happened, in light or in encoded values.

        Both predict the edge nearly alike. A surface that darkens toward its rim, as a photograph may under a
        glow, tips the balance over all of the rim: patches of several tiles are what is independent there.
        """
        others = [i for i in range(1, self.judged) if i != self.best]
        chosen, tile = self.costs[self.best], self.weighing.pairs.tile
        return all(
            lead(self.costs[i], chosen, coarser(tile, across))[1] > 2 * ERRORS
            for i in others
            for across in (1, 2, 3)
        )

    def _is_a_picture(self) -> bool:
        local = self.costs[next(i for i, r in enumerate(self.readings) if r.local)]
        return bool(local.mean() < self.means[0] - LEAD and local.mean() < self.means[self.best] - LEAD)

    def _candidates(self, chosen: Reading | None) -> list[Candidate]:
        found = []
        for i, hypothesis in enumerate(self.readings):
            if self.ground.kind == "varied" and hypothesis.local:
                continue
            reading = as_reading(hypothesis)
            fit = self.fits[hypothesis.multiplied] if 0 < i < self.judged else None
            score = self.weighing.foretold(self.costs[i])
            found.append(
                Candidate(
                    reading=reading,
                    score=score,
                    evidence=f"Foretells {score:.0%} of the edge pixels.",
                    matte_spread=fit.spread if fit else None,
                )
            )
        return in_order(found, chosen)


def in_order(candidates: list[Candidate], chosen: Reading | None) -> list[Candidate]:
    """The chosen one first, then by score; each reading once."""
    once: dict[str, Candidate] = {}
    for c in candidates:
        once.setdefault(c.reading.model_dump_json(), c)
    return sorted(once.values(), key=lambda c: (c.reading != chosen, -(c.score or 0)))


def _cannot_tell(frames: list[StoredPicture], pairs: int, ground: Ground) -> Suggestion:
    low = min(float(p["A"].min()) for p in frames)
    band = max(float(((p["A"] > 0.02) & (p["A"] < 0.98)).mean()) for p in frames)
    if low >= 0.998:
        reason = "The alpha is 1 everywhere: every reading gives the same picture."
    elif max(float(p["A"].max()) for p in frames) <= 0.002:
        reason = "The alpha is 0 everywhere: there is no edge to judge by."
    elif band < 1e-4:
        reason = "Every edge is hard: no pixel is partly covered, so no edge shows how it was multiplied."
    else:
        reason = "Too few pixels are partly covered to judge by."
    readings = [Reading(alpha="straight"), Reading(alpha="premultiplied")]
    if ground.colour is not None and max(ground.colour) > SNAP:
        matte = as_reading(Hypothesis(snapped(ground.colour, SNAP)))
        readings.append(matte)
    return Suggestion(
        verdict="cannot-tell", reading=None, reason=reason, pairs=pairs,
        candidates=[Candidate(reading=r) for r in readings],
    )  # fmt: skip


def _inverted(frames: list[StoredPicture], encoding: str, top: float) -> Suggestion:
    turned = [p.with_planes({**{n: p[n] for n in RGB}, "A": np.float32(1) - p["A"]}) for p in frames]
    got = _judged(turned, encoding, top)

    def back(reading: Reading) -> Reading:
        return reading.model_copy(update={"inverted": True})

    reading = back(got.reading or Reading(alpha="straight"))
    found = [c.model_copy(update={"reading": back(c.reading)}) for c in got.candidates]
    return got.model_copy(
        update={
            "verdict": "straight" if reading.alpha == "straight" else "premultiplied", "reading": reading,
            "reason": "The alpha is 1 where nothing is, and 0 where the picture has its detail: it is "
            f"inverted. {got.reason}",
            "candidates": in_order([*found, Candidate(reading=Reading(alpha="straight"))], reading),
        }
    )  # fmt: skip


def _matte(ground: Ground, fit: Fit | None) -> tuple[float, float, float] | None:
    """What the clear ground shows, or else what the edges tell."""
    if ground.colour is not None:
        return snapped(ground.colour, SNAP)
    return None if fit is None else snapped(fit.matte, max(SNAP, *(2 * s for s in fit.spread)))


def snapped(colour: tuple[float, float, float], near: float) -> tuple[float, float, float]:
    """Black or white where the colour is that near to them."""
    for plain in ((0.0, 0.0, 0.0), (1.0, 1.0, 1.0)):
        if max(abs(c - p) for c, p in zip(colour, plain, strict=True)) <= near:
            return plain
    return colour


def as_reading(hypothesis: Hypothesis) -> Reading:
    """The hypothesis as a reading that an element can have."""
    if hypothesis.matte is None:
        return Reading(alpha="straight")
    r, g, b = (round(min(max(float(v), 0.0), 1.0), 5) for v in hypothesis.matte)
    return Reading(alpha="premultiplied", matte=(r, g, b), multiplied=hypothesis.multiplied)
