"""Words that were given up are found, wherever a text has them; those that took their place are not."""

import pytest
import retired_words


@pytest.mark.parametrize(
    ("line", "word"),
    [
        ("Raise the black end.", "black end"), ("Bring it in again.", "Bring it in"),
        ("every further channel", "further channel"), ("a blue card behind", "blue card"),
        ("premultiplied over white, after encoding", "after encoding"),
    ],
)  # fmt: skip
def test_a_retired_word_is_told_with_its_line(line, word):
    (row,) = retired_words.in_text("guide.md", f"First.\n{line}\n")
    assert row.startswith(f"guide.md:2: {word!r} is now: ")


def test_the_words_of_today_pass():
    text = "Raise the black point. Import it again. every extra channel, a blue screen, in encoded values."
    assert retired_words.in_text("guide.md", text) == []
