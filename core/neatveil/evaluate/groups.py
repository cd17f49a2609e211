"""The pictures of groups and of comps inside a comp: layers merged over nothing.

A group has the alpha that it is given.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..colour.working import from_working, to_working
from ..merge.inside import with_alpha
from ..picture import Box, Plane, PremultipliedPicture, cut, plane_over, trimmed, used_box
from .compositing import place_alpha
from .content import CompContent, GroupContent
from .named_sources import merged_alone
from .placement import frame_box
from .plan import RenderPlan
from .prepare import composite, prepare_layer, prepare_layers
from .resolved_sources import ResolvedSources

#: Share of a group's pixels that must be empty for it to be copied without them: it is used a few times only.
_WORTH = 1 / 3


def render_group(content: GroupContent, level: int) -> PremultipliedPicture:
    """A group's members merged at a level, before its own steps.

    What lies beyond the comp's frame is drawn where it can come into view: where the group, or one that holds
    it, is moved or has steps that may pull it in. It is drawn as far as half the frame's size beyond every
    edge.
    """
    context = content.context
    frame = frame_box(context.comp, level)
    plan = RenderPlan(context, content.root, content.inner, level, frame, frame, content.rows, [])
    if content.wide:
        plan = replace(plan, area=_reach(plan, content))
    if content.group.alpha.by == "members":
        return trimmed(_bounded(composite(plan, 0, len(plan.rows), None)), worth=_WORTH)
    alpha = _alpha(content, plan)
    done = composite(plan, 0, len(plan.rows), None, alpha)
    with_alpha(done.planes, alpha)
    return trimmed(_bounded(done), worth=_WORTH)


def render_comp(content: CompContent, level: int) -> PremultipliedPicture:
    """Another comp at a level, as it is drawn by itself, in the working space of the one that shows it."""
    context = content.context
    frame = frame_box(context.comp, level)
    plan = RenderPlan(context, content.frame, content.frame, level, frame, frame, content.rows, [])
    merged = trimmed(composite(plan, 0, len(plan.rows), None), worth=_WORTH)
    if context.comp.working == content.working:
        return merged
    return to_working(from_working(merged, context.comp.working), content.working)


def _reach(plan: RenderPlan, content: GroupContent) -> Box:
    """The frame and what its members cover around it, with the one that gives the alpha."""
    frame = plan.frame
    w, h = frame.width // 2, frame.height // 2
    limit = Box(frame.x0 - w, frame.y0 - h, frame.x1 + w, frame.y1 + h)
    area = frame
    rows = [*plan.rows, *([content.alpha_row] if content.alpha_row else [])]
    for batch in plan.batches(rows):
        for layer in prepare_layers(plan, batch):
            area = area.around(layer.reach.intersect(limit))
    return area


def _bounded(picture: PremultipliedPicture) -> PremultipliedPicture:
    """Without what was drawn beyond the frame where nothing lies there: steps would fill it."""
    frame, area = picture.display_window, picture.data_window
    if area == frame:
        return picture
    # the used box of a picture of nothing is a pixel in its corner
    used = any(p.any() for p in picture.planes.values())
    keep = frame.around(used_box(picture).intersect(area)) if used else frame
    return picture if keep == area else cut(picture, keep)


def _alpha(content: GroupContent, plan: RenderPlan) -> Plane:
    """``(H, W)`` over the plan's area: the alpha of one member, or that of a matte."""
    area = plan.area
    alpha = content.group.alpha
    if alpha.by == "member":
        if content.alpha_row is None:
            return np.zeros((area.height, area.width), np.float32)
        return place_alpha(prepare_layer(plan, content.alpha_row), area)
    if alpha.matte is None or not alpha.matte.works:
        whole = np.ones((plan.frame.height, plan.frame.width), np.float32)
        return plane_over(whole, plan.frame, area)
    names = ResolvedSources(content.context, content.root, content.frame, merged_alone(content.group))
    return plane_over(names.matte_of_step(alpha.matte, plan.level), plan.frame, area)
