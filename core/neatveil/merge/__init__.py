"""Merging two premultiplied pictures: one table of operators in three families."""

from .operators import OPERATORS, Operator, merge_planes, operator_named

__all__ = ["OPERATORS", "Operator", "merge_planes", "operator_named"]
