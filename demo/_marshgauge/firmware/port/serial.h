#ifndef PORT_SERIAL_H
#define PORT_SERIAL_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

/* A serial line to the radio. One platform file gives these their bodies. */
typedef struct port {
    void *handle;
    int fd;
    bool open;
} port_t;

bool port_open(port_t *p, const char *name, int baud);

/* Hands on to the platform's port_send_frame. */
bool port_send(port_t *p, const uint8_t *data, size_t n);

void port_close(port_t *p);

#endif
