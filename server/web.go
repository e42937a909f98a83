package server

import (
	"bytes"
	"crypto/rand"
	"encoding/base64"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gin-gonic/gin"
)

const noncePlace = "__NONCE__"

// serveWeb answers everything outside /api: the application's files, and its
// page for every address the application itself understands.
func (s *Server) serveWeb() {
	s.engine.NoRoute(func(c *gin.Context) {
		p := strings.TrimPrefix(path.Clean(c.Request.URL.Path), "/")
		if p == "api" || strings.HasPrefix(p, "api/") || s.config.Web == nil {
			c.Header("Content-Type", "application/problem+json")
			c.JSON(http.StatusNotFound, problem(http.StatusNotFound, "not-found", "there is nothing at this address"))
			return
		}
		if c.Request.Method != http.MethodGet && c.Request.Method != http.MethodHead {
			c.Status(http.StatusMethodNotAllowed)
			return
		}
		if strings.HasPrefix(p, "assets/") || path.Ext(p) != "" && !strings.HasPrefix(p, "r/") {
			b, err := fs.ReadFile(s.config.Web, p)
			if err != nil {
				c.Status(http.StatusNotFound)
				return
			}
			if strings.HasPrefix(p, "assets/") {
				c.Header("Cache-Control", "public, max-age=31536000, immutable")
			}
			c.Data(http.StatusOK, contentType(p), b)
			return
		}
		s.servePage(c)
	})
}

// contentType does not ask the machine's own tables, so that every machine
// answers alike.
func contentType(p string) string {
	switch path.Ext(p) {
	case ".js":
		return "text/javascript; charset=utf-8"
	case ".css":
		return "text/css; charset=utf-8"
	case ".svg":
		return "image/svg+xml"
	case ".woff2":
		return "font/woff2"
	}
	if t := mime.TypeByExtension(path.Ext(p)); t != "" {
		return t
	}
	return "application/octet-stream"
}

// servePage sends the application's page with a nonce of its own for styles.
func (s *Server) servePage(c *gin.Context) {
	page, err := fs.ReadFile(s.config.Web, "index.html")
	if err != nil {
		c.Data(http.StatusServiceUnavailable, "text/plain; charset=utf-8", []byte("The web application is not built into this program: run make build."))
		return
	}
	raw := make([]byte, 18)
	_, _ = rand.Read(raw) // never fails
	nonce := base64.StdEncoding.EncodeToString(raw)
	c.Header("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-"+nonce+"'; img-src 'self' data:; font-src 'self'; "+
		"connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
	c.Header("Cache-Control", "no-store")
	c.Data(http.StatusOK, "text/html; charset=utf-8", bytes.ReplaceAll(page, []byte(noncePlace), []byte(nonce)))
}
