"""What a failing test leaves."""

import pytest
from browser.driver import keep_page

pytestmark = pytest.mark.browser


def test_a_page_is_kept_as_a_picture_and_in_words(chromium, tmp_path):
    chromium.get("data:text/html,<h1>Reeds</h1><script>console.error('a broken stem')</script>")
    told = keep_page(chromium, tmp_path / "left", "reeds")
    picture, text = tmp_path / "left" / "reeds.png", tmp_path / "left" / "reeds.txt"
    assert told == f"{picture}\n{text}"
    assert picture.read_bytes().startswith(b"\x89PNG")
    assert "Reeds" in text.read_text()
    assert "a broken stem" in text.read_text()
