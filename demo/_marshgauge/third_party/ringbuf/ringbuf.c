#include "ringbuf.h"

/* TODO: a bulk copy instead of byte by byte */
void ringbuf_put(ringbuf_t *r, const uint8_t *data, size_t n)
{
    while (n--) {
        r->bytes[r->head] = *data++;
        r->head = (r->head + 1) % r->size;
        if (r->used < r->size) {
            r->used++;
        }
    }
}

size_t ringbuf_copy(const ringbuf_t *r, uint8_t *into, size_t size)
{
    size_t n = r->used < size ? r->used : size;
    size_t at = (r->head + r->size - n) % r->size;
    for (size_t i = 0; i < n; i++) {
        into[i] = r->bytes[(at + i) % r->size];
    }
    return n;
}
