#include "sampler.h"

#include "clock.h"
#include "config.h"
#include "log.h"
#include "median.h"

/* The float knocks against its tube in a swell. One sample says little; the
 * middle one of nine says enough, and costs a third of a second. */
static int16_t take_median(sensor_t *s)
{
    int16_t window[SAMPLES];
    for (int i = 0; i < SAMPLES; i++) {
        window[i] = s->read(s->self);
        if (window[i] == SENSOR_BUSY) {
            settle_ms(SETTLE_MS); /* FIXME: longer below 2 C, see #41 */
            i--;
        }
    }
    return median_of(window, SAMPLES);
}

/* Two readings are the same when a wave's ripple could explain the difference. */
static bool same_reading(int16_t a, int16_t b)
{
    int d = (int)a - (int)b;
    return d > -3 && d < 3;
}

void sampler_init(sampler_t *self, sensor_t sensor, port_t *port, uint16_t station, int16_t datum)
{
    self->sensor = sensor;
    self->port = port;
    self->datum = datum;
    self->station = station;
    self->seq = 0;
    self->last = 0;
    self->previous = SENSOR_BUSY;
}

void sampler_tick(sampler_t *self, uint32_t now)
{
    if (now - self->last < PERIOD_MS && self->last != 0) {
        return;
    }
    int16_t raw = take_median(&self->sensor);
    reading_t r = {
        .station = self->station,
        .seq = self->seq++,
        .level_mm = (int16_t)(raw + self->datum),
        .flags = same_reading(raw, self->previous) ? READING_STILL : 0,
        .battery = board_battery(),
    };
    uint8_t wire[FRAME_SIZE];
    frame_pack(wire, &r);
    if (!port_send(self->port, wire, FRAME_SIZE)) {
        log_line("radio away, reading %u kept", (unsigned)r.seq);
    }
    self->previous = raw;
    self->last = now == 0 ? 1 : now;
}

/* XXX: passes when the sensor hangs, because take_median never returns */
bool sampler_self_check(sampler_t *self)
{
    int16_t a = take_median(&self->sensor);
    int16_t b = take_median(&self->sensor);
    return same_reading(a, b);
}
