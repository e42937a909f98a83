"""The constituents that matter on a shallow coast, with their speeds.

TODO in this docstring is a word about the docstring, not a tagged comment.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Constituent:
    """One harmonic: its usual name and its speed in degrees an hour."""

    name: str
    speed: float


# NOTE: the order is that of their size at Saltern
ALL = (
    Constituent("M2", 28.984104),
    Constituent("S2", 30.0),
    Constituent("N2", 28.43973),
    Constituent("K1", 15.041069),
    Constituent("O1", 13.943036),
    Constituent("M4", 57.968208),
    Constituent("MS4", 58.984104),
)

BY_NAME = {c.name: c for c in ALL}
