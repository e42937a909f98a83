#ifndef RINGBUF_H
#define RINGBUF_H

#include <stddef.h>
#include <stdint.h>

typedef struct ringbuf {
    uint8_t *bytes;
    size_t size;
    size_t head;
    size_t used;
} ringbuf_t;

void ringbuf_put(ringbuf_t *r, const uint8_t *data, size_t n);
size_t ringbuf_copy(const ringbuf_t *r, uint8_t *into, size_t size);

#endif
