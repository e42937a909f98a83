// Memory for one text at a time. What the grammar runtime asks for while a text
// is read comes from here, one piece behind the other, and is given up as a
// whole when the text is done: no tree is taken apart node by node.
#ifndef JUXTAGRAM_MEMORY_H
#define JUXTAGRAM_MEMORY_H

#include <stdbool.h>
#include <stddef.h>

enum { JX_PIECE_SIZES = 64 };

typedef struct jx_piece jx_piece;

typedef struct {
	char *base, *at;                // what was taken lies between them
	char *ready, *end;              // what may be written ends, what is set aside of addresses ends
	jx_piece *idle[JX_PIECE_SIZES]; // given back, by size
} jx_memory;

// jx_memory_install makes the runtime ask here; before any parse, once. Where no
// text is being read by jx_parse it gets the system's memory as ever.
void jx_memory_install(void);

// jx_memory_enter makes the runtime take memory from m on this thread, until
// jx_memory_leave, which gives up all of it. False: there are no addresses left.
bool jx_memory_enter(jx_memory *m);
void jx_memory_leave(jx_memory *m);

// jx_memory_rest gives the system back what is more than most bytes.
void jx_memory_rest(jx_memory *m, size_t most);
void jx_memory_free(jx_memory *m);

#endif
