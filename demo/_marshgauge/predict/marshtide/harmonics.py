"""Heights from constituents: a sum of cosines."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from .constituents import BY_NAME


@dataclass
class Tide:
    """A station's tide: mean level (mm) and, for each constituent, its
    amplitude (mm) and phase (degrees, at the epoch)."""

    mean: float
    parts: dict[str, tuple[float, float]] = field(default_factory=dict)

    def height(self, hours: float) -> float:
        """The height (mm) some hours after the epoch."""
        total = self.mean
        for name, (amplitude, phase) in self.parts.items():
            speed = BY_NAME[name].speed
            total += amplitude * math.cos(math.radians(speed * hours - phase))
        return total

    def curve(self, start: float, end: float, step: float = 0.1) -> list[tuple[float, float]]:
        """Heights from start to end (hours), both included where they fall on a step."""
        n = int(math.floor((end - start) / step + 1e-9))
        return [(start + i * step, self.height(start + i * step)) for i in range(n + 1)]


def extremes(curve: list[tuple[float, float]]) -> list[tuple[float, float, str]]:
    """High and low waters of a curve: where its slope changes sign."""
    out = []
    for (_, a), (t, b), (_, c) in zip(curve, curve[1:], curve[2:]):
        if b > a and b >= c:
            out.append((t, b, "high"))
        elif b < a and b <= c:
            out.append((t, b, "low"))
    # HACK: a flat top counts once because of >= on one side only
    return out
