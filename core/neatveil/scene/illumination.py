"""What gives light, and how far it is followed."""

from __future__ import annotations

from dataclasses import dataclass

from .plate import Plate
from .sky import Sky


@dataclass(frozen=True)
class Illumination:
    """How a picture is lit.

    Attributes
    ----------
    lamps : whether the scene's lights and the sky shine; surfaces that glow are seen in any case.
    indirect : whether surfaces light each other.
    bounces : surfaces that light goes on from after the first, at most.
    sky, sky_seen : the picture all around, and whether the camera sees it.
    clear_glass : whether the background shows through glass in the alpha, or glass is opaque there.
    plate : what lies behind everything in the true composite.
    most : light that one indirect ray brings at most: a few rays that find a small lamp would be specks.
    """

    lamps: bool = True
    indirect: bool = True
    bounces: int = 3
    sky: Sky | None = None
    sky_seen: bool = False
    clear_glass: bool = True
    plate: Plate | None = None
    most: float = 10.0

    @property
    def shining_sky(self) -> Sky | None:
        return self.sky if self.lamps else None

    @property
    def followed(self) -> bool:
        """Whether rays that scatter or mirror are worth following."""
        return self.lamps and (self.indirect or self.sky is not None)
