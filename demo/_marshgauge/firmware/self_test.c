/* Runs on the bench, without a pole: packs, unpacks, sorts. */
#include <stdio.h>
#include <string.h>

#include "crc16.h"
#include "frame.h"
#include "median.h"
#include "sampler.h"
#include "tide_table.h"

static int failed;

static void check(int ok, const char *what)
{
    if (!ok) {
        printf("FAILED %s\n", what);
        failed++;
    }
}

static void test_crc(void)
{
    check(crc16((const uint8_t *)"123456789", 9) == 0x29b1, "crc of the standard's check string");
    check(checksum((const uint8_t *)"123456789", 9) == 0x29b1, "the same by its old name");
}

static void test_median(void)
{
    int16_t v[] = {9, -4, 7, 7, 120, 3, 5, 8, 6};
    check(median_of(v, 9) == 7, "median");
    int16_t one[] = {-32000};
    check(median_of(one, 1) == -32000, "median of one");
}

static void test_frame(void)
{
    reading_t in = {.station = 12, .seq = 65535, .level_mm = -1234, .flags = READING_STILL, .battery = 80};
    reading_t out;
    uint8_t wire[FRAME_SIZE];
    frame_pack(wire, &in);
    check(frame_unpack(&out, wire), "a packed frame is read back");
    check(out.station == 12 && out.seq == 65535 && out.level_mm == -1234 && out.battery == 80, "fields survive");
    wire[5] ^= 1;
    check(!frame_unpack(&out, wire), "a flipped bit is seen");
}

static void test_tides(void)
{
    int high = 0;
    for (int i = 0; i < TIDE_STEPS; i++) {
        high = tide_table[i] > high ? tide_table[i] : high;
    }
    check(high > 2000 && high < 2700, "springs at Saltern");
}

int main(void)
{
    test_tides();
    test_crc();
    test_median();
    test_frame();
    printf("%d failed\n", failed);
    return failed != 0;
}
