#ifndef CLOCK_H
#define CLOCK_H

#include <stdint.h>

/* Milliseconds since start; wraps after 49 days. */
uint32_t clock_ms(void);

/* Waits for the sensor to come to rest. */
void settle_ms(uint32_t ms);

#endif
