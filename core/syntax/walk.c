#include "walk.h"
#include <stdlib.h>

extern void *ts_parser_new(void);
extern void ts_parser_delete(void *);
extern bool ts_parser_set_language(void *, const void *);
extern void ts_parser_set_timeout_micros(void *, uint64_t);
extern void ts_parser_set_cancellation_flag(void *, const size_t *);
extern bool ts_parser_set_included_ranges(void *, const TSRange *, uint32_t);
extern void *ts_parser_parse_string(void *, const void *, const char *, uint32_t);
extern void ts_parser_reset(void *);
extern void ts_tree_delete(void *);
extern TSNode ts_tree_root_node(const void *);
extern uint32_t ts_node_start_byte(TSNode);
extern TSPoint ts_node_start_point(TSNode);
extern uint32_t ts_language_symbol_count(const void *);
extern const char *ts_language_symbol_name(const void *, uint16_t);
extern int ts_language_symbol_type(const void *, uint16_t);
extern uint32_t ts_language_field_count(const void *);
extern const char *ts_language_field_name_for_id(const void *, uint16_t);

uint32_t jx_symbol_count(const void *l) { return ts_language_symbol_count(l); }
const char *jx_symbol_name(const void *l, uint16_t s) { return ts_language_symbol_name(l, s); }
int jx_symbol_type(const void *l, uint16_t s) { return ts_language_symbol_type(l, s); }
uint32_t jx_field_count(const void *l) { return ts_language_field_count(l); }
const char *jx_field_name(const void *l, uint16_t f) { return ts_language_field_name_for_id(l, f); }

// jx_shared_state tells the state that a grammar's scanner keeps in variables of
// the whole program, instead of one for each parser: up to JX_MAX_STATE bytes.
size_t jx_shared_state(const void *language, char *state) {
	const ts_language *l = language;
	if (!l->scanner.create || !l->scanner.serialize) return 0;
	void *own = l->scanner.create();
	if (!own) return l->scanner.serialize(NULL, state);
	l->scanner.destroy(own);
	return 0;
}

void jx_set_shared_state(const void *language, const char *state, size_t length) {
	((const ts_language *)language)->scanner.deserialize(NULL, state, length);
}

jx_machine *jx_new(void) { return calloc(1, sizeof(jx_machine)); }

void jx_free(jx_machine *m) {
	jx_memory_free(&m->memory);
	free(m->nodes);
	free(m->frames);
	free(m);
}

void jx_stop(jx_machine *m) { __atomic_store_n(&m->stop, 1, __ATOMIC_SEQ_CST); }

// jx_rest readies a machine for the next text, whenever that comes: no stop is
// pending, and memory that a very large file needed is given back.
void jx_rest(jx_machine *m, size_t most) {
	m->stop = 0;
	if (m->capacity > most) {
		free(m->nodes);
		m->nodes = NULL;
		m->capacity = 0;
	}
	if (m->frame_capacity > most) {
		free(m->frames);
		m->frames = NULL;
		m->frame_capacity = 0;
	}
	jx_memory_rest(&m->memory, most * sizeof *m->nodes);
}

static bool grow(jx_machine *m) {
	size_t capacity = m->capacity ? m->capacity * 2 : 1 << 14;
	jx_node *nodes = realloc(m->nodes, capacity * sizeof *nodes);
	if (!nodes) return false;
	m->nodes = nodes;
	m->capacity = capacity;
	return true;
}

// A frame is a subtree whose children are being walked. Those of a subtree that
// cannot be seen stand for it, among the children of the node around.
struct jx_frame {
	const ts_subtree *child, *end;              // those to come
	const uint16_t *aliases;                    // by structural index; NULL: none
	const ts_field_entry *field, *field_end;    // of the production
	uint32_t byte, row;                         // where the child to come begins
	uint32_t parent;                            // index of the node around
	uint16_t structural;                        // index of the child to come, extras left out
	uint16_t outer_field;                       // of the subtree itself, where it cannot be seen
	bool seen;                                  // it is the node around
};

static bool more_frames(jx_machine *m) {
	size_t capacity = m->frame_capacity ? m->frame_capacity * 2 : 1 << 8;
	jx_frame *frames = realloc(m->frames, capacity * sizeof *frames);
	if (!frames) return false;
	m->frames = frames;
	m->frame_capacity = capacity;
	return true;
}

static jx_frame frame_of(const ts_language *l, const ts_heap *h, uint32_t byte, uint32_t row, uint32_t parent, uint16_t outer_field, bool seen) {
	jx_frame f = { .child = (const ts_subtree *)h - h->child_count, .end = (const ts_subtree *)h, .byte = byte, .row = row,
		.parent = parent, .outer_field = outer_field, .seen = seen };
	if (h->production_id) f.aliases = l->alias_sequences + h->production_id * l->max_alias_sequence_length;
	if (l->field_count) {
		ts_field_slice s = l->field_slices[h->production_id];
		f.field = l->field_entries + s.index;
		f.field_end = f.field + s.length;
	}
	return f;
}

static inline uint16_t field_of(const jx_frame *f, uint16_t structural) {
	for (const ts_field_entry *e = f->field; e < f->field_end; e++) {
		if (e->child == structural && !e->inherited) return e->field;
	}
	return f->outer_field;
}

// step moves a frame behind the child that it is at.
static inline void step(jx_frame *f, uint32_t bytes, uint32_t rows) {
	f->byte += bytes;
	f->row += rows;
	if (++f->child == f->end) return;
	ts_subtree next = *f->child;
	f->byte += next.leaf.is_inline ? next.leaf.padding_bytes : next.heap->padding.bytes;
	f->row += next.leaf.is_inline ? next.leaf.padding_rows : next.heap->padding.rows;
}

// write_down walks the tree once, in preorder.
static int write_down(jx_machine *m, const jx_grammar *g, TSNode root, size_t most) {
	const ts_language *l = g->language;
	ts_subtree top = *(const ts_subtree *)root.id;
	// the root is the one child of a frame of its own
	jx_frame whole = { .child = &top, .end = &top + 1, .byte = ts_node_start_byte(root), .row = ts_node_start_point(root).row, .parent = UINT32_MAX };
	size_t depth = 1;
	if (!m->frame_capacity && !more_frames(m)) return JX_NO_MEMORY;
	m->frames[0] = whole;
	while (depth > 0) {
		jx_frame *f = &m->frames[depth - 1];
		if (f->child == f->end) {
			if (f->seen) m->nodes[f->parent].next = (uint32_t)m->count;
			depth--;
			continue;
		}
		ts_subtree s = *f->child;
		bool leaf = s.leaf.is_inline;
		bool visible = leaf ? s.leaf.visible : s.heap->visible;
		bool extra = leaf ? s.leaf.extra : s.heap->extra;
		uint32_t bytes = leaf ? s.leaf.size_bytes : s.heap->size.bytes, rows = leaf ? 0 : s.heap->size.rows;
		uint32_t byte = f->byte, row = f->row, parent = f->parent;
		uint16_t symbol = leaf ? s.leaf.symbol : s.heap->symbol, field = 0, structural = f->structural;
		if (!extra) {
			uint16_t alias = f->aliases ? f->aliases[structural] : 0;
			if (alias) {
				symbol = alias;
				visible = true;
			}
			f->structural++;
		}
		step(f, bytes, rows);
		if (visible) {
			if (symbol != UINT16_MAX) symbol = l->public_symbols[symbol];
			if (symbol < g->drop_count && g->drop[symbol]) continue;
		} else if (leaf) {
			continue;
		}
		if (!extra) field = field_of(f, structural);
		if (visible) {
			if (m->count == most) return JX_TOO_MANY;
			if (m->count == m->capacity && !grow(m)) return JX_NO_MEMORY;
			uint32_t i = (uint32_t)m->count++;
			m->nodes[i] = (jx_node){ symbol, field, byte, byte + bytes, row, row + rows, parent, i + 1 };
			parent = i;
			field = 0;
		}
		if (!leaf && s.heap->child_count && (visible || s.heap->visible_child_count)) {
			if (depth == m->frame_capacity && !more_frames(m)) return JX_NO_MEMORY;
			m->frames[depth++] = frame_of(l, s.heap, byte, row, parent, field, visible);
		}
	}
	return JX_OK;
}

int jx_parse(jx_machine *m, const jx_grammar *g, const char *text, uint32_t length, const TSRange *ranges, uint32_t range_count,
	size_t most_nodes, uint64_t limit_micros) {
	int status = JX_BAD_GRAMMAR;
	m->count = 0;
	if (!jx_memory_enter(&m->memory)) return JX_NO_MEMORY;
	void *parser = ts_parser_new();
	if (ts_parser_set_language(parser, g->language)) {
		ts_parser_set_timeout_micros(parser, limit_micros);
		ts_parser_set_cancellation_flag(parser, &m->stop);
		status = JX_BAD_RANGES;
		if (ts_parser_set_included_ranges(parser, ranges, range_count)) {
			void *tree = ts_parser_parse_string(parser, NULL, text, length);
			status = tree ? write_down(m, g, ts_tree_root_node(tree), most_nodes) : JX_STOPPED;
		}
	}
	ts_parser_delete(parser); // for the scanner, whose memory may be its own; the tree goes with the rest
	jx_memory_leave(&m->memory);
	return status;
}

void *jx_bare_parser(const void *language, uint64_t limit_micros) {
	void *parser = ts_parser_new();
	ts_parser_set_language(parser, language);
	ts_parser_set_timeout_micros(parser, limit_micros);
	return parser;
}

bool jx_bare(void *parser, const char *text, uint32_t length) {
	void *tree = ts_parser_parse_string(parser, NULL, text, length);
	if (tree) ts_tree_delete(tree);
	ts_parser_reset(parser);
	return tree != NULL;
}

void jx_bare_end(void *parser) { ts_parser_delete(parser); }
