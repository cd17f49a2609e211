"""The pass renderer: open 3D scenes in, passes out. It knows nothing of comps or of the web."""

from .gltf import read_scene
from .model import Scene

__all__ = ["Scene", "read_scene"]
