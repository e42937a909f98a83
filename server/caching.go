package server

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
)

// surveyedMark marks routes that answer what a survey found, without a word of people.
const surveyedMark = "surveyed"

// surveyed lets browsers keep a route's answers: they ask each time whether theirs is
// still the one, and whoever may no longer read is refused then.
func surveyed(op *huma.Operation) { op.Metadata[surveyedMark] = true }

// Caching of what never changes under its address, and of what the address alone does
// not tell.
const (
	immutable  = "private, max-age=31536000, immutable"
	revalidate = "private, no-cache"
)

// etags gives the answers of marked routes an ETag, and answers 304 to who has them.
func (s *Server) etags(c *gin.Context) {
	w := &taggedWriter{ResponseWriter: c.Writer, context: c}
	c.Writer = w
	c.Next()
	w.finish()
}

// taggedWriter holds an answer of a marked route back until it is whole.
type taggedWriter struct {
	gin.ResponseWriter
	context *gin.Context
	held    bytes.Buffer
}

func (w *taggedWriter) holds() bool {
	return w.context.GetBool(surveyedMark) && w.Status() == http.StatusOK && w.context.Request.Method == http.MethodGet
}

// Unwrap gives the controls of the connection to who looks for them.
func (w *taggedWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

// Write implements io.Writer.
func (w *taggedWriter) Write(b []byte) (int, error) {
	if w.holds() {
		return w.held.Write(b)
	}
	return w.ResponseWriter.Write(b)
}

// WriteString implements io.StringWriter.
func (w *taggedWriter) WriteString(s string) (int, error) { return w.Write([]byte(s)) }

func (w *taggedWriter) finish() {
	if w.held.Len() == 0 {
		return
	}
	sum := sha256.Sum256(w.held.Bytes())
	tag := `W/"` + hex.EncodeToString(sum[:16]) + `"`
	w.Header().Set("ETag", tag)
	w.Header().Set("Cache-Control", revalidate)
	if matches(w.context.GetHeader("If-None-Match"), tag) {
		w.Header().Del("Content-Type")
		w.ResponseWriter.WriteHeader(http.StatusNotModified)
		w.ResponseWriter.WriteHeaderNow()
		return
	}
	_, _ = w.ResponseWriter.Write(w.held.Bytes()) // whoever asked may be gone
}

// matches compares as RFC 9110 does for If-None-Match: weakly.
func matches(header, tag string) bool {
	for one := range strings.SplitSeq(header, ",") {
		one = strings.TrimSpace(one)
		if one == "*" || strings.TrimPrefix(one, "W/") == strings.TrimPrefix(tag, "W/") {
			return true
		}
	}
	return false
}
