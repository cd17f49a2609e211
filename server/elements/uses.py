"""What uses elements, asked without knowing it: apps that come later register themselves at the start."""

from __future__ import annotations

from typing import Protocol

from neatveil.picture import Box, PremultipliedPicture

from .models import Element


class Use(Protocol):
    """One kind of thing that elements are used in."""

    def users(self, element: Element) -> list[str]:
        """Names of those that use the element."""

    def used(self, project_id: int) -> set[str]:
        """Keys of all the project's elements that are used, and names by which some are."""

    def working_in(self, project_id: int, configuration: str) -> list[str]:
        """Names of those that work in a space of a configuration of colour."""

    def set_in(self, project_id: int, font: str) -> list[str]:
        """Names of those with texts that are set in a font file."""

    def lies_before(self, element: Element) -> bool:
        """Whether something lies behind it where it is used."""

    def behind(self, element: Element, frame: int, box: Box) -> PremultipliedPicture | None:
        """What lies behind it where it is used, within ``box`` of its picture; None where nothing does."""


USES: list[Use] = []


def register(use: Use) -> None:
    USES.append(use)
