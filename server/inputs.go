package server

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
)

// maxQuery is how many bytes a query may have, as it was sent.
const maxQuery = 32 << 10

// inputs refuses what no handler can mean: addresses that hold a NUL or are not UTF-8,
// and queries that are too long.
func (s *Server) inputs(c *gin.Context) {
	if err := checkInputs(c.Request); err != nil {
		abort(c, s.explain(err))
		return
	}
	c.Next()
}

func checkInputs(r *http.Request) error {
	if len(r.URL.RawQuery) > maxQuery {
		return problem(http.StatusRequestURITooLong, "too-long", "the address is too long")
	}
	if !printable(r.URL.Path) {
		return problem(http.StatusBadRequest, "invalid", "the address holds a NUL or is not UTF-8")
	}
	query, err := url.ParseQuery(r.URL.RawQuery)
	if err != nil {
		return problem(http.StatusBadRequest, "invalid", "the query cannot be read")
	}
	for name, values := range query {
		for _, v := range append(values, name) {
			if !printable(v) {
				return problem(http.StatusBadRequest, "invalid", "a parameter of the query holds a NUL or is not UTF-8")
			}
		}
	}
	return nil
}

// jsonFormat reads JSON that holds text alone: no NUL, which no record can keep, and
// UTF-8.
var jsonFormat = huma.Format{Marshal: huma.DefaultJSONFormat.Marshal, Unmarshal: func(data []byte, v any) error {
	if !utf8.Valid(data) || bytes.Contains(data, []byte(`\u0000`)) && holdsNUL(data) {
		return problem(http.StatusBadRequest, "invalid", "the request holds a NUL or is not UTF-8")
	}
	return huma.DefaultJSONFormat.Unmarshal(data, v)
}}

func printable(s string) bool { return utf8.ValidString(s) && !strings.ContainsRune(s, 0) }

// holdsNUL tells that a string of a JSON text does.
func holdsNUL(body []byte) bool {
	for d := json.NewDecoder(bytes.NewReader(body)); ; {
		t, err := d.Token()
		if err != nil {
			return false // whoever reads it says what is wrong
		}
		if s, ok := t.(string); ok && strings.ContainsRune(s, 0) {
			return true
		}
	}
}
