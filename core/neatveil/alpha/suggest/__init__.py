"""Suggesting a reading from the pixels."""

from .suggestion import Candidate, Suggestion, suggest

__all__ = ["Candidate", "Suggestion", "suggest"]
