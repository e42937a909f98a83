/* Marshgauge, the parts of a gauge.
 * SPDX-License-Identifier: MIT */
#ifndef GAUGE_H
#define GAUGE_H
#include <stdint.h>
#include "clock.h"
#  include <sys/types.h>

#define SAMPLES 9
#define FEATURE_SWELL
#define MAX(a, b) ((a) > (b) ? (a) : (b))
#define LOG(fmt, ...) \
	log_line(fmt, __VA_ARGS__)

/* A level in millimetres. */
typedef int16_t level_t;
typedef unsigned long long big_t, *big_ptr;
typedef void (*handler_t)(void *self, int n);
typedef int table_t[16];
typedef struct point { int x, y; } point;
typedef struct { int a; char *b; } bare_t, *bare_ptr;
typedef enum { CALM, ROUGH = 4, WILD } sea_t;
typedef union { int i; float f; } word_t;

/** A gauge with its sensor.
 * It sleeps between readings. */
struct gauge {
	const char *name; /* as on the chart */
	volatile uint32_t ticks;
	int16_t window[SAMPLES];
	unsigned ready : 1, late : 1;
	int (*read)(struct gauge *self);
	struct { int inner_x; int inner_y; };
	struct nested { int deep; } nested;
	union { int as_int; float as_float; } value;
	struct gauge *next;
};
union any { int i; double d; };
enum mode { MODE_OFF, MODE_ON = 1, MODE_AUTO = MODE_ON << 1, };
struct forward;
enum { LOOSE_ONE, LOOSE_TWO };

extern int shared_count;
static const char *const names[] = { "saltern", "mere" };
const int limit = 12;
static int counter = 0, other;
int plain, *pointer, array[3], matrix[2][2];
volatile sig_atomic_t stop_flag;
int (*callback)(int);
static int (*table_of[4])(void);
struct gauge the_gauge = { .name = "x" };
struct gauge *find_gauge(const char *name);
int variadic(const char *format, ...);
void takes_callback(int (*f)(int), void *data);
static inline int twice(int n) { return n * 2; }
int *returns_pointer(void) { return 0; }
int (*returns_function(int a))(int) { return 0; }
unsigned long
split_over_lines(
	int first,
	int second)
{
	return first + second;
}
int old_style(a, b)
	int a; char *b;
{ return a; }
__attribute__((noreturn)) void never(void);
void with_local(void)
{
	struct local { int z; };
	static int kept;
	int i, *p = &i;
	for (i = 0; i < 3; i++) {
		if (i && p || kept) { switch (i) { case 1: break; default: goto out; } }
		else if (i > 2) while (i) do { i--; } while (0);
	}
out:
	log_line("joined " "over " /* a comment between */ "pieces %s", "x\ty");
}
#ifdef _WIN32
int platform(void) { return 1; }
#else
int platform(void) { return 2; }
#endif
#if defined(A) && A > 1
# define NESTED_MACRO 1
#endif
#define READ_GAUGE 0
#define READ_LEVEL 1
#define READ_TIDE 2
#define READ_FLOAT 3
#define READ_WAVE 4
#define READ_MARSH 5
#define READ_STATION 6
#define READ_FRAME 7
#define READ_LINK 8
#define READ_BOARD 9
#define READ_CURVE 10
#define READ_MEDIAN 11
#define READ_BATTERY 12
#define READ_CLOCK 13
#define READ_PORT 14
#define READ_BUFFER 15
#define READ_SENSOR 16
#define READ_WINDOW 17
#define READ_ALARM 18
#define READ_DATUM 19
#define READ_HARBOUR 20
#define READ_JETTY 21
#define READ_BUOY 22
#define READ_ANCHOR 23
#define READ_CHANNEL 24
#define READ_EBB 25
#define READ_FLOOD 26
#define READ_SPRING 27
#define READ_NEAP 28
#define READ_SWELL 29
#define WRITE_GAUGE 30
#define WRITE_LEVEL 31
#define WRITE_TIDE 32
#define WRITE_FLOAT 33
#define WRITE_WAVE 34
#define WRITE_MARSH 35
#define WRITE_STATION 36
#define WRITE_FRAME 37
#define WRITE_LINK 38
#define WRITE_BOARD 39
#define WRITE_CURVE 40
#define WRITE_MEDIAN 41
#define WRITE_BATTERY 42
#define WRITE_CLOCK 43
#define WRITE_PORT 44
#define WRITE_BUFFER 45
#define WRITE_SENSOR 46
#define WRITE_WINDOW 47
#define WRITE_ALARM 48
#define WRITE_DATUM 49
#define WRITE_HARBOUR 50
#define WRITE_JETTY 51
#define WRITE_BUOY 52
#define WRITE_ANCHOR 53
#define WRITE_CHANNEL 54
#define WRITE_EBB 55
#define WRITE_FLOOD 56
#define WRITE_SPRING 57
#define WRITE_NEAP 58
#define WRITE_SWELL 59
/* Part 0 of the frame. */
struct part_gauge {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
/* Part 1 of the frame. */
struct part_level {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
/* Part 2 of the frame. */
struct part_tide {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
/* Part 3 of the frame. */
struct part_float {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
/* Part 4 of the frame. */
struct part_wave {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
/* Part 5 of the frame. */
struct part_marsh {
	int read_gauge;
	int read_level;
	int read_tide;
	int read_float;
	int read_wave;
	int read_marsh;
	int read_station;
	int read_frame;
	int read_link;
	int read_board;
	int read_curve;
	int read_median;
};
enum kind_gauge { K0_GAUGE, K0_LEVEL, K0_TIDE, K0_FLOAT, K0_WAVE, K0_MARSH, K0_STATION, K0_FRAME, K0_LINK, K0_BOARD, K0_CURVE, K0_MEDIAN, K0_BATTERY, K0_CLOCK };
enum kind_level { K1_GAUGE, K1_LEVEL, K1_TIDE, K1_FLOAT, K1_WAVE, K1_MARSH, K1_STATION, K1_FRAME, K1_LINK, K1_BOARD, K1_CURVE, K1_MEDIAN, K1_BATTERY, K1_CLOCK };
enum kind_tide { K2_GAUGE, K2_LEVEL, K2_TIDE, K2_FLOAT, K2_WAVE, K2_MARSH, K2_STATION, K2_FRAME, K2_LINK, K2_BOARD, K2_CURVE, K2_MEDIAN, K2_BATTERY, K2_CLOCK };
enum kind_float { K3_GAUGE, K3_LEVEL, K3_TIDE, K3_FLOAT, K3_WAVE, K3_MARSH, K3_STATION, K3_FRAME, K3_LINK, K3_BOARD, K3_CURVE, K3_MEDIAN, K3_BATTERY, K3_CLOCK };
enum kind_wave { K4_GAUGE, K4_LEVEL, K4_TIDE, K4_FLOAT, K4_WAVE, K4_MARSH, K4_STATION, K4_FRAME, K4_LINK, K4_BOARD, K4_CURVE, K4_MEDIAN, K4_BATTERY, K4_CLOCK };
static int read_gauge(int n)
{
	return n + 0;
}
static int read_level(int n)
{
	return n + 1;
}
static int read_tide(int n)
{
	return n + 2;
}
static int read_float(int n)
{
	return n + 3;
}
static int read_wave(int n)
{
	return n + 4;
}
static int read_marsh(int n)
{
	return n + 5;
}
static int read_station(int n)
{
	return n + 6;
}
static int read_frame(int n)
{
	return n + 7;
}
static int read_link(int n)
{
	return n + 8;
}
static int read_board(int n)
{
	return n + 9;
}
static int read_curve(int n)
{
	return n + 10;
}
static int read_median(int n)
{
	return n + 11;
}
static int read_battery(int n)
{
	return n + 12;
}
static int read_clock(int n)
{
	return n + 13;
}
static int read_port(int n)
{
	return n + 14;
}
static int read_buffer(int n)
{
	return n + 15;
}
static int read_sensor(int n)
{
	return n + 16;
}
static int read_window(int n)
{
	return n + 17;
}
static int read_alarm(int n)
{
	return n + 18;
}
static int read_datum(int n)
{
	return n + 19;
}
static int read_harbour(int n)
{
	return n + 20;
}
static int read_jetty(int n)
{
	return n + 21;
}
static int read_buoy(int n)
{
	return n + 22;
}
static int read_anchor(int n)
{
	return n + 23;
}
static int read_channel(int n)
{
	return n + 24;
}
static int read_ebb(int n)
{
	return n + 25;
}
static int read_flood(int n)
{
	return n + 26;
}
static int read_spring(int n)
{
	return n + 27;
}
static int read_neap(int n)
{
	return n + 28;
}
static int read_swell(int n)
{
	return n + 29;
}
static int write_gauge(int n)
{
	return n + 30;
}
static int write_level(int n)
{
	return n + 31;
}
static int write_tide(int n)
{
	return n + 32;
}
static int write_float(int n)
{
	return n + 33;
}
static int write_wave(int n)
{
	return n + 34;
}
static int write_marsh(int n)
{
	return n + 35;
}
static int write_station(int n)
{
	return n + 36;
}
static int write_frame(int n)
{
	return n + 37;
}
static int write_link(int n)
{
	return n + 38;
}
static int write_board(int n)
{
	return n + 39;
}
static int write_curve(int n)
{
	return n + 40;
}
static int write_median(int n)
{
	return n + 41;
}
static int write_battery(int n)
{
	return n + 42;
}
static int write_clock(int n)
{
	return n + 43;
}
static int write_port(int n)
{
	return n + 44;
}
static int write_buffer(int n)
{
	return n + 45;
}
static int write_sensor(int n)
{
	return n + 46;
}
static int write_window(int n)
{
	return n + 47;
}
static int write_alarm(int n)
{
	return n + 48;
}
static int write_datum(int n)
{
	return n + 49;
}
#endif
