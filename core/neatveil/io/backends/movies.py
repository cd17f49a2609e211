"""Movies of whatever format: which files are movies, and what reads them."""

from __future__ import annotations

from pathlib import Path
from typing import TypeAlias

from ..formats import format_of
from .av_movies import MovieReader
from .webp_moving import WebpMovieReader, is_moving

AnyMovie: TypeAlias = MovieReader | WebpMovieReader


def is_movie(path: Path) -> bool:
    """Whether a file is a movie; a WebP is one where it says so."""
    known = format_of(path)
    return known.kind == "movie" or (known.name == "WebP" and is_moving(path))


def open_movie(path: Path) -> AnyMovie:
    """A reader of a file that is a movie; `FileMissing`, `FileEmpty`, `FileDamaged` as readers say."""
    return WebpMovieReader(path) if format_of(path).name == "WebP" else MovieReader(path)
