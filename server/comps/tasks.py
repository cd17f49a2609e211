"""Care of what comps keep."""

from __future__ import annotations

from procrastinate.contrib.django import app

from .actions.remove_comp import forget_deleted
from .models import Comp
from .revisions import thin


@app.periodic(cron="17 3 * * *")
@app.task(queue="care", queueing_lock="thin-revisions", pass_context=False)
def thin_revisions(timestamp: int) -> None:
    """Take out old states that the rule does not keep, and comps that were deleted long ago, every night."""
    forget_deleted()
    for comp in Comp.objects.only("pk").iterator():
        thin(comp)
