"""Timecode: the number that a frame is called by on a day's clock [SMPTE12-1].

Drop-frame leaves out the numbers 0 and 1 (at about 60 fps 0 to 3) at the start of every minute but each
tenth, so that 29.97 fps keep step with the clock. It is written with a semicolon before the frame.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction

from ..errors import ValueRefused

_FORM = re.compile(r"(\d{2}):([0-5]\d):([0-5]\d)([:;])(\d{2})")


@dataclass(frozen=True, slots=True)
class Timecode:
    """A frame's place on the clock. ``count``: frames since 00:00:00:00, those that are dropped left out."""

    count: int
    fps: int
    drop: bool

    @classmethod
    def parse(cls, text: str, rate: Fraction) -> Timecode:
        """Of text such as ``01:00:00:00``; ``;`` before the frame is drop-frame.

        Raises
        ------
        ValueRefused
            The text is none, the rate has no drop-frame, or drop-frame leaves that number out.

        Examples
        --------
        >>> Timecode.parse("00:01:00;02", Fraction(30000, 1001)).count
        1800
        """
        fps = round(rate)
        match = _FORM.fullmatch(text.strip())
        if match is None or int(match[1]) > 23 or int(match[5]) >= fps:
            raise ValueRefused(
                f"{text!r} is no timecode at {rate} fps.",
                advice="Write it as 01:00:00:00, or as 01:00:00;00 for drop-frame.",
                where="timecode",
            )
        hours, minutes, seconds, frames = (int(match[i]) for i in (1, 2, 3, 5))
        drop = match[4] == ";"
        if drop and rate not in {Fraction(30000, 1001), Fraction(60000, 1001)}:
            raise ValueRefused(
                f"There is no drop-frame at {rate} fps.", advice="Write it with a colon.", where="timecode"
            )
        skipped = fps // 15 if drop else 0
        if drop and minutes % 10 and seconds == 0 and frames < skipped:
            raise ValueRefused(
                f"Drop-frame leaves out {text}.", advice=f"Write ;{skipped:02d}.", where="timecode"
            )
        minute = hours * 60 + minutes
        count = (minute * 60 + seconds) * fps + frames - skipped * (minute - minute // 10)
        return cls(count, fps, drop)

    def after(self, frames: int) -> Timecode:
        """So many frames later; past midnight it begins again."""
        day = 24 * 6 * self._ten_minutes
        return Timecode((self.count + frames) % day, self.fps, self.drop)

    @property
    def _ten_minutes(self) -> int:
        return self.fps * 600 - (9 * self.fps // 15 if self.drop else 0)

    @property
    def parts(self) -> tuple[int, int, int, int]:
        """Hours, minutes, seconds and frames."""
        number = self.count
        if self.drop:
            skipped = self.fps // 15
            tens, rest = divmod(number, self._ten_minutes)
            minute = self.fps * 60 - skipped
            # the first of ten minutes is whole
            within = 0 if rest < self.fps * 60 else 1 + (rest - self.fps * 60) // minute
            number += skipped * (9 * tens + within)
        seconds, frames = divmod(number, self.fps)
        return seconds // 3600, seconds // 60 % 60, seconds % 60, frames

    def __str__(self) -> str:
        hours, minutes, seconds, frames = self.parts
        return f"{hours:02d}:{minutes:02d}:{seconds:02d}{';' if self.drop else ':'}{frames:02d}"

    def packed(self) -> tuple[int, int]:
        """As OpenEXR and DPX hold it: decimal digits of four bits each, and no user data."""
        hours, minutes, seconds, frames = self.parts
        digits = [frames % 10, frames // 10, seconds % 10, seconds // 10, minutes % 10, minutes // 10]
        word = sum(d << (4 * i) for i, d in enumerate([*digits, hours % 10, hours // 10]))
        return word | (1 << 6 if self.drop else 0), 0
