/* The serial line on Windows: a handle and a DCB. */
#ifdef _WIN32
#include "serial.h"

#include <windows.h>

bool port_open(port_t *p, const char *name, int baud)
{
    p->open = false;
    p->fd = -1;
    HANDLE h = CreateFileA(name, GENERIC_READ | GENERIC_WRITE, 0, 0, OPEN_EXISTING, 0, 0);
    if (h == INVALID_HANDLE_VALUE) {
        return false;
    }
    DCB dcb = {.DCBlength = sizeof dcb};
    if (!GetCommState(h, &dcb)) {
        CloseHandle(h);
        return false;
    }
    dcb.BaudRate = (DWORD)baud;
    dcb.ByteSize = 8;
    dcb.Parity = NOPARITY;
    dcb.StopBits = ONESTOPBIT;
    if (!SetCommState(h, &dcb)) {
        CloseHandle(h);
        return false;
    }
    p->handle = h;
    p->open = true;
    return true;
}

/* Writes a whole frame or nothing that a receiver would take for one. */
static bool port_send_frame(port_t *p, const uint8_t *data, size_t n)
{
    DWORD sent = 0;
    if (!WriteFile(p->handle, data, (DWORD)n, &sent, 0)) {
        return false;
    }
    return sent == n; /* TODO(sefa): retry as the Unix side does */
}

bool port_send(port_t *p, const uint8_t *data, size_t n)
{
    return p->open && port_send_frame(p, data, n);
}

void port_close(port_t *p)
{
    if (p->open) {
        CloseHandle(p->handle);
        p->open = false;
    }
}
#endif
