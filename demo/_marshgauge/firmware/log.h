#ifndef LOG_H
#define LOG_H

/* One line to the service port; the last ones stay in memory for the bench. */
void log_line(const char *format, ...);

/* Copies the newest kept bytes, oldest first; returns how many. */
int log_tail(char *into, int size);

#endif
