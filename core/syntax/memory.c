#include "memory.h"
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>

extern void ts_set_allocator(void *(*)(size_t), void *(*)(size_t, size_t), void *(*)(void *, size_t), void (*)(void *));

// A piece has its size before it, and the next idle one of its size inside while
// it is idle. All are aligned to 8 bytes, which is what the runtime needs.
struct jx_piece { jx_piece *next; };

enum { HEAD = sizeof(size_t), GRAIN = 16, STEP = 2 << 20 }; // a step is a large page

static const size_t room = (size_t)8 << 30; // of addresses: only what is ready is memory

static __thread jx_memory *current;

// none ends the program, as the runtime does by itself where it gets no memory.
static void *none(size_t size) {
	fprintf(stderr, "no memory for %zu bytes\n", size);
	abort();
}

static size_t *head(void *p) { return (size_t *)((char *)p - HEAD); }
static size_t with_head(size_t size) { return (size + HEAD + GRAIN - 1) / GRAIN * GRAIN; }
static bool is_ours(const void *p) { return current && (const char *)p >= current->base && (const char *)p < current->end; }
static bool is_last(const jx_memory *m, void *p) { return (char *)p - HEAD + *head(p) == m->at; }

// extend moves the end of what was taken.
static void extend(jx_memory *m, size_t size) {
	if (size > (size_t)(m->ready - m->at)) {
		size_t step = m->ready - m->base; // twice as much each time
		if (step < size) step = (size + STEP - 1) / STEP * STEP;
		if (step > (size_t)(m->end - m->ready) || mprotect(m->ready, step, PROT_READ | PROT_WRITE)) none(size);
		m->ready += step;
	}
	m->at += size;
}

static void *take(size_t size) {
	jx_memory *m = current;
	if (!m) {
		void *p = malloc(size);
		return p || !size ? p : none(size);
	}
	if (size > room) none(size);
	size = with_head(size);
	size_t sized = size / GRAIN;
	if (sized < JX_PIECE_SIZES && m->idle[sized]) {
		jx_piece *p = m->idle[sized];
		m->idle[sized] = p->next;
		return p;
	}
	char *p = m->at + HEAD;
	extend(m, size);
	*head(p) = size;
	return p;
}

static void give(void *p) {
	if (!is_ours(p)) {
		free(p);
		return;
	}
	jx_memory *m = current;
	size_t sized = *head(p) / GRAIN;
	if (is_last(m, p)) {
		m->at -= *head(p);
	} else if (sized < JX_PIECE_SIZES) {
		jx_piece *piece = p;
		piece->next = m->idle[sized];
		m->idle[sized] = piece;
	}
}

static void *take_zeroed(size_t count, size_t size) {
	size_t whole;
	if (__builtin_mul_overflow(count, size, &whole)) none(SIZE_MAX);
	return memset(take(whole), 0, whole);
}

static void *retake(void *p, size_t size) {
	if (!p) return take(size);
	if (!is_ours(p)) {
		p = realloc(p, size);
		return p || !size ? p : none(size);
	}
	if (size > room) none(size);
	size_t old = *head(p), whole = with_head(size);
	if (whole <= old) return p;
	if (is_last(current, p)) { // it grows where it is
		extend(current, whole - old);
		*head(p) = whole;
		return p;
	}
	void *grown = memcpy(take(size), p, old - HEAD);
	give(p);
	return grown;
}

void jx_memory_install(void) { ts_set_allocator(take, take_zeroed, retake, give); }

bool jx_memory_enter(jx_memory *m) {
	if (!m->base) {
		char *base = mmap(NULL, room, PROT_NONE, MAP_PRIVATE | MAP_ANONYMOUS | MAP_NORESERVE, -1, 0);
		if (base == MAP_FAILED) return false;
		// a tree is walked to and fro: fewer, larger pages spare look-ups of addresses; where there are none it goes without
		madvise(base, room, MADV_HUGEPAGE);
		char *first = (char *)(((uintptr_t)base + STEP - 1) / STEP * STEP);
		munmap(base, first - base);
		m->base = m->at = m->ready = first;
		m->end = base + room;
	}
	current = m;
	return true;
}

void jx_memory_leave(jx_memory *m) {
	current = NULL;
	m->at = m->base;
	memset(m->idle, 0, sizeof m->idle);
}

void jx_memory_rest(jx_memory *m, size_t most) {
	most = (most + STEP - 1) / STEP * STEP;
	size_t ready = m->ready - m->base;
	if (ready <= most) return;
	madvise(m->base + most, ready - most, MADV_DONTNEED);
	if (mprotect(m->base + most, ready - most, PROT_NONE) == 0) m->ready = m->base + most; // it counts as this process's data no more
}

void jx_memory_free(jx_memory *m) {
	if (m->base) munmap(m->base, m->end - m->base);
}
