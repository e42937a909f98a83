#include "median.h"

/* Insertion sort: nine values, nearly sorted on a calm day. */
static void sort_small(int16_t *v, int n)
{
    for (int i = 1; i < n; i++) {
        int16_t x = v[i];
        int j = i - 1;
        while (j >= 0 && v[j] > x) {
            v[j + 1] = v[j];
            j--;
        }
        v[j + 1] = x;
    }
}

int16_t median_of(int16_t *window, int n)
{
    sort_small(window, n);
    return window[n / 2];
}
