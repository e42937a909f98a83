#include "frame.h"

#include "crc16.h"

static void put16(uint8_t *at, uint16_t v)
{
    at[0] = (uint8_t)(v >> 8);
    at[1] = (uint8_t)v;
}

static uint16_t get16(const uint8_t *at)
{
    return (uint16_t)((at[0] << 8) | at[1]);
}

void frame_pack(uint8_t wire[FRAME_SIZE], const reading_t *r)
{
    wire[0] = FRAME_START;
    put16(wire + 1, r->station);
    put16(wire + 3, r->seq);
    put16(wire + 5, (uint16_t)r->level_mm);
    wire[7] = r->flags;
    wire[8] = r->battery;
    wire[9] = 0; /* TODO: temperature, once the second probe is fitted */
    put16(wire + 10, crc16(wire, 10));
}

bool frame_unpack(reading_t *r, const uint8_t wire[FRAME_SIZE])
{
    if (wire[0] != FRAME_START || get16(wire + 10) != crc16(wire, 10)) {
        return false;
    }
    r->station = get16(wire + 1);
    r->seq = get16(wire + 3);
    r->level_mm = (int16_t)get16(wire + 5);
    r->flags = wire[7];
    r->battery = wire[8];
    return true;
}
