// What Go asks of the grammar runtime: one parse, and one walk of its tree. The
// names are resolved against the runtime that is linked with the grammars.
#ifndef JUXTAGRAM_WALK_H
#define JUXTAGRAM_WALK_H

#include "memory.h"
#include "runtime.h"

// One node of the flat tree.
typedef struct {
	uint16_t symbol, field;
	uint32_t start, end;   // bytes
	uint32_t row, end_row; // from 0
	uint32_t parent, next; // indices: next is the first node after the subtree
} jx_node;

typedef struct jx_frame jx_frame;

// What a text is read with; any language may be next.
typedef struct {
	size_t stop; // set to other than 0 from another thread: the parse is given up
	jx_node *nodes;
	size_t count, capacity;
	jx_frame *frames;
	size_t frame_capacity;
	jx_memory memory;
} jx_machine;

// A grammar, and of which symbols no node is written down.
typedef struct {
	const ts_language *language;
	const uint8_t *drop; // by symbol
	uint32_t drop_count;
} jx_grammar;

enum { JX_OK = 0, JX_STOPPED = 1, JX_NO_MEMORY = 2, JX_TOO_MANY = 3, JX_BAD_GRAMMAR = 4, JX_BAD_RANGES = 5 };

jx_machine *jx_new(void);
int jx_parse(jx_machine *m, const jx_grammar *g, const char *text, uint32_t length, const TSRange *ranges, uint32_t range_count,
	size_t most_nodes, uint64_t limit_micros);
void jx_stop(jx_machine *m);
void jx_free(jx_machine *m);
void jx_rest(jx_machine *m, size_t most);

// The library by itself, with one parser for many texts and the tree taken apart.
void *jx_bare_parser(const void *language, uint64_t limit_micros);
bool jx_bare(void *parser, const char *text, uint32_t length);
void jx_bare_end(void *parser);

size_t jx_shared_state(const void *language, char *state);
void jx_set_shared_state(const void *language, const char *state, size_t length);

uint32_t jx_symbol_count(const void *language);
const char *jx_symbol_name(const void *language, uint16_t symbol);
int jx_symbol_type(const void *language, uint16_t symbol);
uint32_t jx_field_count(const void *language);
const char *jx_field_name(const void *language, uint16_t field);

#endif
