#!/usr/bin/env python3
"""Closes a levelling run and says how high the gauge's zero lies."""

import csv
import math
import sys


def closing(run):
    """Sum of back sights less fore sights over the whole loop, in millimetres."""
    return sum(s["back"] - s["fore"] for s in run)


def allowed(run):
    """What a loop of this length may miss by, in millimetres."""
    kilometres = sum(s["metres"] for s in run) / 1000
    return 4 * math.sqrt(kilometres)


def spread(run):
    """Shares the misclosure out by length, as the harbour board wants it."""
    miss, total = closing(run), sum(s["metres"] for s in run)
    height, out = 0.0, []
    for s in run:
        height += s["back"] - s["fore"] - miss * s["metres"] / total
        out.append(round(height, 1))
    return out


def read(path):
    with open(path, newline="") as f:
        return [{k: float(v) for k, v in row.items()} for row in csv.DictReader(f)]


def main():
    run = read(sys.argv[1])
    if abs(closing(run)) > allowed(run):
        # TODO: say which leg is the likely one
        sys.exit(f"the run misses by {closing(run):.1f} mm, {allowed(run):.1f} allowed: level it again")
    print("\n".join(str(h) for h in spread(run)))


if __name__ == "__main__":
    main()
