"""Least squares: which constituents explain a station's readings."""

from __future__ import annotations

import math

from .constituents import ALL
from .harmonics import Tide


def solve(matrix: list[list[float]], right: list[float]) -> list[float]:
    """Solves a small linear system by elimination with pivoting."""
    n = len(right)
    rows = [row[:] + [r] for row, r in zip(matrix, right)]
    for i in range(n):
        pivot = max(range(i, n), key=lambda k: abs(rows[k][i]))
        if abs(rows[pivot][i]) < 1e-12:
            raise ValueError("the readings do not tell the constituents apart")
        rows[i], rows[pivot] = rows[pivot], rows[i]
        for k in range(i + 1, n):
            factor = rows[k][i] / rows[i][i]
            for j in range(i, n + 1):
                rows[k][j] -= factor * rows[i][j]
    out = [0.0] * n
    for i in reversed(range(n)):
        rest = sum(rows[i][j] * out[j] for j in range(i + 1, n))
        out[i] = (rows[i][n] - rest) / rows[i][i]
    return out


def fit(readings: list[tuple[float, float]], names: list[str] | None = None) -> Tide:
    """Fits a tide to (hours, mm) readings. Two weeks are little, a month is good."""
    chosen = [c for c in ALL if names is None or c.name in names]
    # FIXME(oona): thirty days do not separate S2 from K2; the phase drifts, see #88
    columns = 1 + 2 * len(chosen)
    normal = [[0.0] * columns for _ in range(columns)]
    right = [0.0] * columns
    for hours, level in readings:
        row = [1.0]
        for c in chosen:
            angle = math.radians(c.speed * hours)
            row += [math.cos(angle), math.sin(angle)]
        for i, a in enumerate(row):
            right[i] += a * level
            for j, b in enumerate(row):
                normal[i][j] += a * b
    x = solve(normal, right)
    tide = Tide(mean=x[0])
    for k, c in enumerate(chosen):
        a, b = x[1 + 2 * k], x[2 + 2 * k]
        tide.parts[c.name] = (math.hypot(a, b), math.degrees(math.atan2(b, a)) % 360)
    return tide
