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
extern uint16_t ts_node_symbol(TSNode);
extern uint32_t ts_node_start_byte(TSNode);
extern uint32_t ts_node_end_byte(TSNode);
extern TSPoint ts_node_start_point(TSNode);
extern TSPoint ts_node_end_point(TSNode);
extern TSTreeCursor ts_tree_cursor_new(TSNode);
extern void ts_tree_cursor_delete(TSTreeCursor *);
extern TSNode ts_tree_cursor_current_node(const TSTreeCursor *);
extern uint16_t ts_tree_cursor_current_field_id(const TSTreeCursor *);
extern bool ts_tree_cursor_goto_parent(TSTreeCursor *);
extern bool ts_tree_cursor_goto_next_sibling(TSTreeCursor *);
extern bool ts_tree_cursor_goto_first_child(TSTreeCursor *);
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

jx_machine *jx_new(const void *language, uint64_t limit_micros) {
	jx_machine *m = calloc(1, sizeof *m);
	if (!m) return NULL;
	m->parser = ts_parser_new();
	if (!ts_parser_set_language(m->parser, language)) {
		ts_parser_delete(m->parser);
		free(m);
		return NULL;
	}
	ts_parser_set_timeout_micros(m->parser, limit_micros);
	ts_parser_set_cancellation_flag(m->parser, &m->stop);
	return m;
}

void jx_free(jx_machine *m) {
	ts_parser_delete(m->parser);
	free(m->nodes);
	free(m);
}

void jx_stop(jx_machine *m) { __atomic_store_n(&m->stop, 1, __ATOMIC_SEQ_CST); }

// jx_rest readies a machine for the next text, whenever that comes: no stop is
// pending, and memory that a very large file needed is given back.
void jx_rest(jx_machine *m, size_t most) {
	m->stop = 0;
	if (m->capacity <= most) return;
	free(m->nodes);
	m->nodes = NULL;
	m->capacity = 0;
}

static bool grow(jx_machine *m) {
	size_t capacity = m->capacity ? m->capacity * 2 : 1 << 14;
	jx_node *nodes = realloc(m->nodes, capacity * sizeof *nodes);
	if (!nodes) return false;
	m->nodes = nodes;
	m->capacity = capacity;
	return true;
}

// write_down walks the tree once, in preorder.
static int write_down(jx_machine *m, TSNode root, const uint8_t *drop, uint32_t drop_count, size_t most) {
	TSTreeCursor at = ts_tree_cursor_new(root);
	uint32_t parent = UINT32_MAX;
	int status = JX_OK;
	m->count = 0;
	for (;;) {
		TSNode n = ts_tree_cursor_current_node(&at);
		uint16_t symbol = ts_node_symbol(n);
		if (symbol >= drop_count || !drop[symbol]) {
			if (m->count == most) { status = JX_TOO_MANY; break; }
			if (m->count == m->capacity && !grow(m)) { status = JX_NO_MEMORY; break; }
			uint32_t i = (uint32_t)m->count++;
			jx_node *out = &m->nodes[i];
			out->symbol = symbol;
			out->field = ts_tree_cursor_current_field_id(&at);
			out->start = ts_node_start_byte(n);
			out->end = ts_node_end_byte(n);
			out->row = ts_node_start_point(n).row;
			out->end_row = ts_node_end_point(n).row;
			out->parent = parent;
			out->next = i + 1;
			if (ts_tree_cursor_goto_first_child(&at)) {
				parent = i;
				continue;
			}
		}
		while (!ts_tree_cursor_goto_next_sibling(&at)) {
			if (parent == UINT32_MAX || !ts_tree_cursor_goto_parent(&at)) goto done;
			m->nodes[parent].next = (uint32_t)m->count;
			parent = m->nodes[parent].parent;
		}
	}
done:
	ts_tree_cursor_delete(&at);
	return status;
}

int jx_parse(jx_machine *m, const char *text, uint32_t length, const TSRange *ranges, uint32_t range_count,
	const uint8_t *drop, uint32_t drop_count, size_t most, bool walk) {
	int status = JX_OK;
	m->count = 0;
	if (!ts_parser_set_included_ranges(m->parser, ranges, range_count)) return JX_BAD_GRAMMAR;
	void *tree = ts_parser_parse_string(m->parser, NULL, text, length);
	if (!tree) {
		ts_parser_reset(m->parser);
		return JX_STOPPED;
	}
	if (walk) status = write_down(m, ts_tree_root_node(tree), drop, drop_count, most);
	ts_tree_delete(tree);
	return status;
}
