// Package note reads what people write beside the code: Markdown with #tags,
// mentions (@name) and references to issues (#12), and turns it into HTML that
// does nothing but show. What stands in a code span or block, in the address of
// a link, or behind a backslash is literal and counts nowhere.
package note
