#ifndef FRAME_H
#define FRAME_H

#include <stdbool.h>
#include <stdint.h>

#define FRAME_SIZE 12
#define FRAME_START 0x4d /* 'M' */

#define READING_STILL 0x01
#define READING_COLD 0x02

typedef struct reading {
    uint16_t station;
    uint16_t seq;
    int16_t level_mm;
    uint8_t flags;
    uint8_t battery; /* percent */
} reading_t;

/* Packs a reading for the radio; docs/protocol.md has the layout. */
void frame_pack(uint8_t wire[FRAME_SIZE], const reading_t *r);

/* Takes frame_pack back; false when the checksum does not fit. */
bool frame_unpack(reading_t *r, const uint8_t wire[FRAME_SIZE]);

uint8_t board_battery(void);

#endif
