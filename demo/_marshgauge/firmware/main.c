/* The gauge: open the radio's port, take a reading every six minutes. */
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "board.h"
#include "clock.h"
#include "config.h"
#include "log.h"
#include "sampler.h"

static void usage(void)
{
    fputs("usage: gauge PORT STATION [DATUM_MM]\n"
          "  PORT     serial port of the radio, or a file\n"
          "  STATION  number of the station, 1 to 65535\n"
          "NOTE that TODO lists hang on the shed door, not here\n",
          stderr);
}

int main(int argc, char **argv)
{
    if (argc < 3) {
        usage();
        return 2;
    }
    int station = atoi(argv[2]);
    if (station < 1 || station > 65535) {
        usage();
        return 2;
    }
    port_t port;
    if (!port_open(&port, argv[1], 9600)) {
        log_line("cannot open %s", argv[1]);
        return 1;
    }
    sampler_t sampler;
    sampler_init(&sampler, board_sensor(), &port, (uint16_t)station, argc > 3 ? (int16_t)atoi(argv[3]) : 0);
    if (!sampler_self_check(&sampler)) {
        log_line("the float does not settle; going on all the same");
    }
    for (;;) {
        sampler_tick(&sampler, clock_ms());
        settle_ms(1000);
    }
}
