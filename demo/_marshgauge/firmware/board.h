#ifndef BOARD_H
#define BOARD_H

#include "sampler.h"

/* The float sensor of this board. Off the pole it is a slow made-up tide. */
sensor_t board_sensor(void);

#endif
