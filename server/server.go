package server

import (
	"compress/gzip"
	"context"
	"io/fs"
	"log/slog"
	"net/http"
	"net/url"
	"sync"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/hashicorp/golang-lru/v2/expirable"
	"github.com/klauspost/compress/gzhttp"

	"juxtagram/core/plan/draft"
	"juxtagram/core/reader"
	"juxtagram/core/skim"
	"juxtagram/core/summary"
	"juxtagram/jobs"
	"juxtagram/store"
)

// Config says how a server behaves.
type Config struct {
	Web         fs.FS    // the built web application; nil: API alone
	Roots       []string // folders below which folders may be taken in
	Protocols   []string // that addresses may use
	UploadLimit int64    // bytes; 0: 4 GB
	PublicURL   *url.URL // the address people use; nil: one of this machine, over plain http
	Proxies     []string // networks of proxies whose word counts for where a request comes from
	Memory      int64    // bytes kept of all repositories together; 0: 512 MB
	Person      PersonLimits
	Logger      *slog.Logger
}

// Server answers requests. Close it to end its background work.
type Server struct {
	store     *store.Store
	jobs      *jobs.Runner
	config    Config
	sessions  *scs.SessionManager
	kept      *pgxstore.PostgresStore
	api       huma.API
	engine    *gin.Engine
	hub       *hub
	memory    *memory
	readers   *readers
	wholes    *kept[*summary.Whole]
	charts    *kept[*store.Chart]
	grounds   *kept[*draft.Ground]
	tagged    *kept[*heldTagged]
	placingAt sync.Map                       // repositories and commits at which places are looked for
	mayPlaces *expirable.LRU[[2]int64, bool] // repository and person: whether they are told of places
	drawing   chan struct{}                  // holds whoever draws a picture
	facts     *reader.Pool                   // of files that no survey has read
	colours   *colours
	recents   *lru.Cache[string, []skim.Lines] // commit, blob and path → lines changed lately
	earlier   *lru.Cache[string, string]       // commit → the one some months before it; "": none
	logs      *logs
	guard     *guard
	passwords *passwords
	quotas    *quotas
	handler   http.Handler
}

// sessionLifetime is how long a sign-in lasts.
const sessionLifetime = 30 * 24 * time.Hour

// New prepares a server; ctx ends its background work.
func New(ctx context.Context, s *store.Store, r *jobs.Runner, config Config) *Server {
	srv := prepare(s, r, config)
	srv.kept = pgxstore.New(s.Pool())
	srv.sessions.Store = srv.kept
	go s.Listen(ctx, srv.heard, srv.hub.missed)
	return srv
}

// heard passes an event on, and forgets what it makes untrue.
func (s *Server) heard(e store.Event) {
	switch {
	case e.Kind == "history":
		s.memory.forget(e.Repository)
		s.warmLater(e.Repository)
	case e.Kind == "survey" && e.State == store.Complete:
		s.warmLater(e.Repository)
	case e.Kind == "repository" && e.State == store.Removing:
		s.memory.forget(e.Repository)
	}
	if e.Kind == sessionEvent {
		s.hub.recheck(e.PrivateTo)
		return
	}
	s.hub.publish(e)
}

// Describe is the API's description, without a server behind it.
func Describe() *huma.OpenAPI { return prepare(nil, nil, Config{}).API() }

func prepare(s *store.Store, r *jobs.Runner, config Config) *Server {
	if config.UploadLimit == 0 {
		config.UploadLimit = 4 << 30
	}
	if config.Logger == nil {
		config.Logger = slog.Default()
	}
	gin.SetMode(gin.ReleaseMode)
	m := newMemory(config.Memory)
	srv := &Server{store: s, jobs: r, config: config, engine: gin.New(), hub: newHub(), memory: m, readers: newReaders(r), wholes: newKept(m, "whole", s.Whole, wholeBytes), charts: newKept(m, "chart", s.ChartOf, chartBytes), facts: reader.New(2), colours: newColours(m), recents: newCache[string, []skim.Lines](recentFiles), earlier: newCache[string, string](recentFiles), logs: newLogs(m), drawing: make(chan struct{}, 1), mayPlaces: expirable.NewLRU[[2]int64, bool](10_000, nil, 3*time.Second), guard: newGuard(), passwords: newPasswords(), quotas: newQuotas()}
	srv.grounds = newKept(m, "ground", srv.groundOf, groundBytes)
	srv.tagged = newKept(m, "tagged", srv.loadTagged, taggedBytes)
	srv.sessions = scs.New()
	srv.sessions.Lifetime = sessionLifetime
	srv.sessions.HashTokenInStore = true
	if err := srv.engine.SetTrustedProxies(config.Proxies); err != nil {
		config.Logger.Error("the networks of proxies cannot be read; none is trusted", "error", err)
		_ = srv.engine.SetTrustedProxies(nil)
	}
	srv.engine.Use(srv.recovery(), srv.headers, srv.sameSite(), srv.inputs, srv.etags)
	srv.api = srv.describe()
	for _, route := range srv.routes() {
		route.register(srv.api)
	}
	srv.serveWeb()
	wrap, err := gzhttp.NewWrapper(gzhttp.MinSize(1400), gzhttp.CompressionLevel(gzip.BestSpeed), gzhttp.ExceptContentTypes([]string{"text/event-stream", "image/png", "image/jpeg", "image/webp", "font/woff2"}))
	if err != nil {
		panic(err) // the options are constants
	}
	srv.handler = withWriteDeadline(wrap(srv.engine))
	return srv
}

// Close ends what New began.
func (s *Server) Close() {
	s.kept.StopCleanup()
	s.colours.close()
	s.grounds.close()
	s.wholes.close()
	s.charts.close()
	s.tagged.close()
	s.logs.close()
	s.readers.close()
	s.facts.Close()
	s.hub.close()
}

// Handler answers HTTP requests.
func (s *Server) Handler() http.Handler { return s.handler }

// API is the description of all routes.
func (s *Server) API() *huma.OpenAPI { return s.api.OpenAPI() }

func (s *Server) describe() huma.API {
	c := huma.DefaultConfig("Juxtagram", "1")
	c.OpenAPI.Info.Description = "Map an unfamiliar Git repository and share a reading plan through it."
	c.OpenAPIPath, c.DocsPath, c.SchemasPath = "/api/openapi", "", ""
	c.CreateHooks = nil // no $schema in answers
	c.Formats = map[string]huma.Format{"application/json": jsonFormat, "json": jsonFormat}
	c.Components.SecuritySchemes = map[string]*huma.SecurityScheme{
		"session": {Type: "apiKey", In: "cookie", Name: sessionCookie, Description: "Set by signing in."},
	}
	api := humagin.New(s.engine, c)
	api.UseMiddleware(s.permit(api))
	return api
}
