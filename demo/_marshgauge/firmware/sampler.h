#ifndef SAMPLER_H
#define SAMPLER_H

#include <stdbool.h>
#include <stdint.h>

#include "frame.h"
#include "port/serial.h"

#define SENSOR_BUSY INT16_MIN

/* A sensor answers with millimetres above its own zero, or SENSOR_BUSY. */
typedef struct sensor {
    int16_t (*read)(void *self);
    void *self;
} sensor_t;

typedef struct sampler {
    sensor_t sensor;
    port_t *port;
    int16_t datum;      /* millimetres from the sensor's zero to chart datum */
    uint16_t station;
    uint16_t seq;
    uint32_t last;      /* milliseconds, wraps after 49 days */
    int16_t previous;   /* the reading sent last */
} sampler_t;

void sampler_init(sampler_t *self, sensor_t sensor, port_t *port, uint16_t station, int16_t datum);

/* Called from the timer; takes a reading when one is due. */
void sampler_tick(sampler_t *self, uint32_t now);

bool sampler_self_check(sampler_t *self);

#endif
