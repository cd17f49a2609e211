"""The Ferrow Marsh film: an invented nature reserve, its pictures made by code."""
