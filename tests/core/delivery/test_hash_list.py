"""Hash lists by ASC MHL and clips by OpenTimelineIO, read by the standards' own libraries."""

import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import opentimelineio as otio
import pytest
import xxhash
from neatveil.cli import main
from neatveil.delivery import Target, add_to_hash_list, format_named, verify_hash_list, write_clip
from neatveil.errors import FileMissing, WriteFailed


@pytest.fixture
def folder(tmp_path):
    for n in (1, 2, 3):
        (tmp_path / f"dusk.{n:04d}.png").write_bytes(bytes([n]) * 1000)
    return tmp_path


def by_the_standard(*arguments, program="ascmhl-debug"):
    """The exit status of the standard's own programs: 0 where all is as its list says."""
    program = Path(sys.executable).parent / program
    return subprocess.run([program, *arguments], capture_output=True, text=True).returncode


def test_the_standards_own_program_verifies_what_was_written(folder):
    add_to_hash_list(folder, sorted(folder.glob("dusk.*")), "ada")
    late = folder / "dusk_alpha.0001.png"
    late.write_bytes(b"alpha")
    assert add_to_hash_list(folder, [late]).name.startswith("0002_")
    assert by_the_standard("diff", str(folder), program="ascmhl") == 0
    assert by_the_standard("verify", str(folder)) == 0
    check = verify_hash_list(folder)
    assert (check.good, check.files, check.generations) == (True, 4, 2)
    first = min((folder / "ascmhl").glob("*.mhl")).read_text()
    assert xxhash.xxh64(bytes([2]) * 1000).hexdigest() in first
    assert "<author>ada</author>" in first


def test_changed_and_missing_files_are_named(folder, capsys):
    files = sorted(folder.glob("dusk.*"))
    add_to_hash_list(folder, files)
    files[0].write_bytes(b"others")
    files[2].unlink()
    check = verify_hash_list(folder)
    assert (check.changed, check.missing) == (["dusk.0001.png"], ["dusk.0003.png"])
    assert by_the_standard("verify", str(folder)) != 0
    assert main(["verify", str(folder), "--mhl"]) == 1
    told = capsys.readouterr().err
    assert "dusk.0001.png is changed" in told
    assert "dusk.0003.png is missing" in told
    with pytest.raises(WriteFailed, match=r"dusk\.0001"):
        add_to_hash_list(folder, files[:1])


def test_what_is_recorded_already_is_not_recorded_again(folder):
    """A proof whose worker was killed at its end is done once more."""
    files = sorted(folder.glob("dusk.*"))
    assert add_to_hash_list(folder, files) == add_to_hash_list(folder, files)
    assert verify_hash_list(folder).generations == 1
    assert by_the_standard("verify", str(folder)) == 0


def test_a_folder_without_a_list_and_a_broken_one_say_so(folder):
    with pytest.raises(FileMissing, match="no ASC MHL"):
        verify_hash_list(folder)
    add_to_hash_list(folder, sorted(folder.glob("dusk.*")))
    next((folder / "ascmhl").glob("*.mhl")).write_text("<hashlist")
    with pytest.raises(FileMissing, match="cannot be read"):
        verify_hash_list(folder)


@pytest.mark.parametrize(
    ("name", "numbers", "duration"),
    [("png16-straight", [1001, 1002, 1005], 5), ("prores4444-straight", [7, 9], 2)],
)
def test_a_clip_names_its_files_range_and_rate(tmp_path, name, numbers, duration):
    made = format_named(name)
    target = Target(tmp_path / ("d.mov" if made.kind == "movie" else "d.####.png"))
    write_clip(tmp_path / "d.otio", target, made, numbers, Fraction(24000, 1001))
    clip = otio.adapters.read_from_file(str(tmp_path / "d.otio"))
    assert clip.source_range.duration.value == duration
    assert clip.source_range.start_time.value == numbers[0]
    assert clip.source_range.duration.rate == pytest.approx(24000 / 1001)
    if made.kind == "movie":
        assert clip.media_reference.target_url == "d.mov"
    else:
        assert clip.media_reference.target_url_for_image_number(0) == "./d.1001.png"
