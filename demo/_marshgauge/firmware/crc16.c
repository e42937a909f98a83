#include "crc16.h"

#include "crc_table.h"

uint16_t crc16(const uint8_t *data, size_t n)
{
    uint16_t crc = 0xffff;
    while (n--) {
        crc = (uint16_t)((crc << 8) ^ crc_table[((crc >> 8) ^ *data++) & 0xff]);
    }
    return crc;
}

uint16_t checksum(const uint8_t *data, size_t n)
{
    return crc16(data, n);
}
