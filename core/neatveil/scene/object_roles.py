"""What part each object plays: shown, cut out of the picture, catching shadows, or not seen by the camera."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .model import Scene

#: Roles of a part. Whatever its role, an object still throws shadows and is mirrored.
SHOWN, HELD, CATCHER, HIDDEN = 0, 1, 2, 3


@dataclass(frozen=True)
class ObjectRoles:
    """Names of nodes; the nodes below one play its part unless they are named themselves.

    Attributes
    ----------
    shown : what the camera sees; None: everything that is not named below.
    held : what is cut out of the picture by its shape.
    catchers : what is not seen itself, only the shadows on it; it hides what is behind it.
    counted : whose shadows another render layer catches: where one falls too, it is not caught again.
    """

    shown: frozenset[str] | None = None
    held: frozenset[str] = frozenset()
    catchers: frozenset[str] = frozenset()
    counted: frozenset[str] = frozenset()

    def of_nodes(self, scene: Scene) -> NDArray[np.int8]:
        """The role of each node."""
        rest = SHOWN if self.shown is None else HIDDEN
        roles: list[int] = []
        for node in scene.nodes:
            above = rest if node.parent is None else roles[node.parent]
            roles.append(self._role(node.name, above))
        return np.array(roles, np.int8)

    def _role(self, name: str, above: int) -> int:
        for names, role in ((self.catchers, CATCHER), (self.held, HELD), (self.shown or (), SHOWN)):
            if name in names:
                return role
        return above


def below(scene: Scene, names: Iterable[str]) -> set[str]:
    """The names with those of all nodes below them."""
    found = set(names)
    for node in scene.nodes:
        if node.parent is not None and scene.nodes[node.parent].name in found:
            found.add(node.name)
    return found
