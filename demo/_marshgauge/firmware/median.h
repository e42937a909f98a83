#ifndef MEDIAN_H
#define MEDIAN_H

#include <stdint.h>

/* Sorts a short window in place and returns its middle value. n is odd. */
int16_t median_of(int16_t *window, int n);

#endif
