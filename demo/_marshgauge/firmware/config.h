/* Numbers that differ between stations, in one place. */
#ifndef CONFIG_H
#define CONFIG_H

#define SAMPLES 9              /* odd, so that there is a middle one */
#define PERIOD_MS 360000UL     /* six minutes between readings */
#define SETTLE_MS 40           /* NOTE: 60 below two degrees, see sampler.c */
#define STATION_NAME_MAX 16
#define QUEUE_FRAMES 32        /* what is kept while the radio is away */

#endif
