"""Writing an element anew in another codec or as frames, its code values and its alpha kept."""

from .forms import REWRITE_FORMS, RewriteForm, rewrite_form_named
from .kept import channels_of, data_channels, dropped, extra_channels, narrowed
from .rewrite import FrameCheck, RewriteReport, as_held, check, reading_after, rewrite

__all__ = [
    "REWRITE_FORMS",
    "FrameCheck",
    "RewriteForm",
    "RewriteReport",
    "as_held",
    "channels_of",
    "check",
    "data_channels",
    "dropped",
    "extra_channels",
    "narrowed",
    "reading_after",
    "rewrite",
    "rewrite_form_named",
]
