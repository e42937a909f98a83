// How the grammar runtime lays out its trees, repeated from the version in
// go.mod as far as one walk needs it: its cursor, which steps over the same
// structures through a stack and ten calls for each node, costs three times as
// much. TestTreesAreTheLibrarysOwn compares what both give for every grammar.
#ifndef JUXTAGRAM_RUNTIME_H
#define JUXTAGRAM_RUNTIME_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

_Static_assert(sizeof(void *) == 8 && __BYTE_ORDER__ == __ORDER_LITTLE_ENDIAN__,
	"the layout of small leaves is written down for machines of 64 bits, the lowest byte first");

typedef struct { uint32_t row, column; } TSPoint;
typedef struct { TSPoint start_point, end_point; uint32_t start_byte, end_byte; } TSRange;
typedef struct { uint32_t context[4]; const void *id; const void *tree; } TSNode;

typedef struct { uint16_t field; uint8_t child; bool inherited; } ts_field_entry;
typedef struct { uint16_t index, length; } ts_field_slice;

// The head of a grammar, a part of the interface between grammars and runtime.
typedef struct {
	uint32_t version, symbol_count, alias_count, token_count, external_token_count;
	uint32_t state_count, large_state_count, production_id_count, field_count;
	uint16_t max_alias_sequence_length;
	const void *parse_table, *small_parse_table, *small_parse_table_map, *parse_actions;
	const char *const *symbol_names, *const *field_names;
	const ts_field_slice *field_slices;
	const ts_field_entry *field_entries;
	const void *symbol_metadata;
	const uint16_t *public_symbols, *alias_map, *alias_sequences;
	const void *lex_modes, *lex, *keyword_lex;
	uint16_t keyword_symbol;
	struct {
		const void *states, *symbols;
		void *(*create)(void);
		void (*destroy)(void *);
		const void *scan;
		unsigned (*serialize)(void *, char *); // at most JX_MAX_STATE bytes
		void (*deserialize)(void *, const char *, unsigned);
	} scanner;
} ts_language;

enum { JX_MAX_STATE = 1024 };

// A small leaf, held where a pointer would stand; a pointer's lowest bit is 0.
typedef struct {
	bool is_inline : 1, visible : 1, named : 1, extra : 1, has_changes : 1, is_missing : 1, is_keyword : 1;
	uint8_t symbol;
	uint16_t parse_state;
	uint8_t padding_columns, padding_rows : 4, lookahead_bytes : 4, padding_bytes, size_bytes;
} ts_leaf;

typedef struct { uint32_t bytes, rows, columns; } ts_length;

// Any other subtree. Its children stand right before it.
typedef struct {
	uint32_t ref_count;
	ts_length padding, size;
	uint32_t lookahead_bytes, error_cost, child_count;
	uint16_t symbol, parse_state;
	bool visible : 1, named : 1, extra : 1, fragile_left : 1, fragile_right : 1, has_changes : 1,
		has_external_tokens : 1, has_external_scanner_state_change : 1, depends_on_column : 1, is_missing : 1, is_keyword : 1;
	union {
		struct { // where there are children
			uint32_t visible_child_count, named_child_count, visible_descendant_count;
			int32_t dynamic_precedence;
			uint16_t repeat_depth, production_id;
		};
		void *others[4];
	};
} ts_heap;

typedef union { ts_leaf leaf; const ts_heap *heap; } ts_subtree;

_Static_assert(sizeof(ts_leaf) == 8 && offsetof(ts_heap, visible_child_count) == 48 && sizeof(ts_heap) == 80, "the runtime's layout");

#endif
