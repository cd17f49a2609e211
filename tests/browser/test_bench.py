"""The cases of the bench that are measured in a browser run, on little."""

import pytest
from bench_cases import IN_A_BROWSER, runs
from browser.hand import until
from browser.test_comp import demo

pytestmark = pytest.mark.browser

__all__ = ["demo"]


UNDO = "button[aria-label^='Undo:']"


def last_change(hand, comp):
    hand.open(f"projects/1/comp/{comp}")
    hand.settled()
    return next((b.get_attribute("aria-label") for b in hand.all(f"{UNDO}:not(:disabled)")), None)


def undo_back_to(hand, comp, change):
    """The demo's second comp has changes of its own that stay."""
    for _ in range(40):
        if last_change(hand, comp) == change:
            return
        hand.one(UNDO).click()
        until(lambda: not hand.seen("saving"), "undone")


@pytest.mark.parametrize("case", sorted(IN_A_BROWSER))
def test_every_case_runs(case, demo, application, password, tmp_path):
    more = {"NEATVEIL_BENCH_ADDRESS": application.address, "NEATVEIL_BENCH_PASSWORD": password}
    before = {comp: last_change(demo, comp) for comp in (1, 2)}
    try:
        runs(case, tmp_path / "rows.json", **more)
    finally:
        for comp, change in before.items():
            undo_back_to(demo, comp, change)
