#!/usr/bin/env python3
"""A gauge that is not there: frames of a made-up tide on standard output."""

import math
import struct
import sys
import time


def crc16(data):
    crc = 0xFFFF
    for b in data:
        crc ^= b << 8
        for _ in range(8):
            crc = ((crc << 1) ^ 0x1021) & 0xFFFF if crc & 0x8000 else (crc << 1) & 0xFFFF
    return crc


def frame(station, seq, level):
    head = struct.pack(">cHHhBBB", b"M", station, seq & 0xFFFF, level, 0, 90, 0)
    return head + struct.pack(">H", crc16(head))


def main():
    station = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    seq = 0
    while True:
        level = int(1500 + 1300 * math.cos(2 * math.pi * time.time() / 44712))
        sys.stdout.buffer.write(frame(station, seq, level))
        sys.stdout.buffer.flush()
        seq += 1
        time.sleep(6)  # XXX: a hundredth of the real period times six, for the demo


if __name__ == "__main__":
    main()
