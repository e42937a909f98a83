"""The command: read readings, fit, print predictions."""

import argparse
import csv
import sys

from .fit import fit
from .harmonics import extremes


def read(lines):
    """Readings from CSV lines of hours,mm; lines that are neither are passed over."""
    for row in csv.reader(lines):
        try:
            yield float(row[0]), float(row[1])
        except (IndexError, ValueError):
            continue


def main(argv=None):
    parser = argparse.ArgumentParser(prog="marshtide", description=__doc__)
    parser.add_argument("readings", nargs="?", type=argparse.FileType("r"), default=sys.stdin)
    parser.add_argument("--hours", type=float, default=48, help="how far to predict")
    args = parser.parse_args(argv)
    past = list(read(args.readings))
    if len(past) < 200:
        print("too few readings: TODO lists are no excuse, wait two weeks", file=sys.stderr)
        return 1
    tide = fit(past)
    last = past[-1][0]
    for hours, level, kind in extremes(tide.curve(last, last + args.hours)):
        print(f"{hours:9.1f} {level:7.0f} {kind}")
    return 0
