/* The serial line on Unix: a file descriptor and termios. */
#define _DEFAULT_SOURCE
#include "serial.h"

#include <errno.h>
#include <fcntl.h>
#include <termios.h>
#include <unistd.h>

static speed_t speed_of(int baud)
{
    switch (baud) {
    case 1200:
        return B1200;
    case 9600:
        return B9600;
    case 19200:
        return B19200;
    default:
        return B0;
    }
}

bool port_open(port_t *p, const char *name, int baud)
{
    p->handle = 0;
    p->open = false;
    p->fd = open(name, O_RDWR | O_NOCTTY);
    if (p->fd < 0) {
        return false;
    }
    struct termios t;
    if (tcgetattr(p->fd, &t) == 0) { /* a pipe on the bench has no speed */
        cfmakeraw(&t);
        cfsetspeed(&t, speed_of(baud));
        if (tcsetattr(p->fd, TCSANOW, &t) != 0) {
            close(p->fd);
            return false;
        }
    }
    p->open = true;
    return true;
}

/* Writes a whole frame or nothing that a receiver would take for one. */
static bool port_send_frame(port_t *p, const uint8_t *data, size_t n)
{
    size_t sent = 0;
    while (sent < n) {
        ssize_t k = write(p->fd, data + sent, n - sent);
        if (k < 0 && errno == EINTR) {
            continue;
        }
        if (k <= 0) {
            return false; /* BUG: what was sent of the frame stays in the radio, see #57 */
        }
        sent += (size_t)k;
    }
    return true;
}

bool port_send(port_t *p, const uint8_t *data, size_t n)
{
    return p->open && port_send_frame(p, data, n);
}

void port_close(port_t *p)
{
    if (p->open) {
        close(p->fd);
        p->open = false;
    }
}
