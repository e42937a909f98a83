#!/bin/bash
# Loads old readings from the harbour's spreadsheets.
set -euo pipefail

usage="usage: backfill.sh FILE.csv... (TODO: not a tagged comment, a text)"
[ $# -gt 0 ] || { echo "$usage" >&2; exit 2; }

for file in "$@"; do
    # FIXME: the sheets of 2024 have metres with a comma
    tail -n +2 "$file" | tr ';' ',' | psql -c "\copy reading (station, at, level_mm) FROM STDIN CSV"
done
