#include "log.h"

#include <stdarg.h>
#include <stdio.h>
#include <string.h>

#include "../third_party/ringbuf/ringbuf.h"

static uint8_t kept_bytes[1024];
static ringbuf_t kept = {kept_bytes, sizeof kept_bytes, 0, 0};

void log_line(const char *format, ...)
{
    char line[128];
    va_list args;
    va_start(args, format);
    int n = vsnprintf(line, sizeof line - 1, format, args);
    va_end(args);
    if (n < 0) {
        return;
    }
    if (n > (int)sizeof line - 2) {
        n = (int)sizeof line - 2;
    }
    line[n++] = '\n';
    fwrite(line, 1, (size_t)n, stderr);
    ringbuf_put(&kept, (const uint8_t *)line, (size_t)n);
}

int log_tail(char *into, int size)
{
    return (int)ringbuf_copy(&kept, (uint8_t *)into, (size_t)size);
}
