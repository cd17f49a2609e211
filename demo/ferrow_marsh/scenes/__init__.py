"""The Ferrow Marsh scenes, written by code as glTF."""
