"""What people look at: pictures as 8-bit display values, and the numbers under a pixel."""

from .channels import channel_picture
from .compare import difference
from .display import BACKGROUNDS, CHANNELS, Look, Screen, display, show
from .measure import Spread, in_codes, profile, spreads, straight_profile, waveform
from .trial import TRIAL_LOOKS, trial_sheet
from .values import Sample, sample, sample_element

__all__ = [
    "BACKGROUNDS",
    "CHANNELS",
    "TRIAL_LOOKS",
    "Look",
    "Sample",
    "Screen",
    "Spread",
    "channel_picture",
    "difference",
    "display",
    "in_codes",
    "profile",
    "sample",
    "sample_element",
    "show",
    "spreads",
    "straight_profile",
    "trial_sheet",
    "waveform",
]
