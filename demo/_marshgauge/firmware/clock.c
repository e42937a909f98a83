#define _POSIX_C_SOURCE 199309L
#include "clock.h"

#ifdef _WIN32
#include <windows.h>

uint32_t clock_ms(void)
{
    return (uint32_t)GetTickCount();
}

void settle_ms(uint32_t ms)
{
    Sleep(ms);
}
#else
#include <time.h>

uint32_t clock_ms(void)
{
    struct timespec t;
    clock_gettime(CLOCK_MONOTONIC, &t);
    return (uint32_t)(t.tv_sec * 1000 + t.tv_nsec / 1000000);
}

void settle_ms(uint32_t ms)
{
    struct timespec t = {.tv_sec = ms / 1000, .tv_nsec = (long)(ms % 1000) * 1000000L};
    nanosleep(&t, 0);
}
#endif
