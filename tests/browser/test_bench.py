"""The cases of the bench that are measured in a browser run, on little."""

import pytest
from bench_cases import IN_A_BROWSER, runs
from browser.test_comp import demo

pytestmark = pytest.mark.browser

__all__ = ["demo"]


@pytest.mark.parametrize("case", sorted(IN_A_BROWSER))
def test_every_case_runs(case, demo, application, password, tmp_path):
    more = {"NEATVEIL_BENCH_ADDRESS": application.address, "NEATVEIL_BENCH_PASSWORD": password}
    # the demo's second comp has changes of its own that stay
    before = {comp: demo.api("GET", f"comps/{comp}")["can_undo"] for comp in (1, 2)}
    try:
        runs(case, tmp_path / "rows.json", **more)
    finally:
        for comp, change in before.items():
            demo.undo_all(comp, change)
