"""Reading glTF 2.0: `.glb`, and `.gltf` with its files."""

from .read import read_scene

__all__ = ["read_scene"]
