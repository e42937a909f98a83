#!/bin/sh
# Replays three simulated gauges into one stream.
set -eu
here=$(dirname "$0")
# NOTE: the stream ends when all three do
for station in 1 2 3; do
    "$here/sim_gauge.py" "$station" &
done
wait
