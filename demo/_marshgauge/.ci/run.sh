#!/bin/sh
# What runs on every push.
set -eu
make all
make test
