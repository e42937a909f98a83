package server

import (
	"context"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/sse"

	"juxtagram/store"
)

// hub passes events on to every open stream. A stream that does not keep up is
// told to look anew instead of being waited for.
type hub struct {
	mu      sync.Mutex
	streams map[*stream]bool
	done    chan struct{}
}

type stream struct {
	person int64
	events chan store.Event
	lost   chan struct{}
	check  chan struct{} // the session may have ended
}

func newHub() *hub { return &hub{streams: map[*stream]bool{}, done: make(chan struct{})} }

func (h *hub) close() { close(h.done) }

func (h *hub) open(person int64) *stream {
	h.mu.Lock()
	defer h.mu.Unlock()
	s := &stream{person: person, events: make(chan store.Event, 64), lost: make(chan struct{}, 1), check: make(chan struct{}, 1)}
	h.streams[s] = true
	return s
}

func (h *hub) leave(s *stream) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.streams, s)
}

func (h *hub) publish(e store.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for s := range h.streams {
		select {
		case s.events <- e:
		default:
			s.miss()
		}
	}
}

func (h *hub) missed() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for s := range h.streams {
		s.miss()
	}
}

func (s *stream) miss() { signal(s.lost) }

// recheck makes the streams of a person see whether they are still signed in.
func (h *hub) recheck(person int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for s := range h.streams {
		if s.person == person {
			signal(s.check)
		}
	}
}

func signal(c chan struct{}) {
	select {
	case c <- struct{}{}:
	default:
	}
}

// sessionEvent tells the processes of an installation that sessions of a person may have
// ended. No browser hears of it.
const sessionEvent = "session"

func (s *Server) endStreams(ctx context.Context, person int64) error {
	return s.store.Publish(ctx, store.Event{Kind: sessionEvent, PrivateTo: person})
}

// Refresh tells a client to look at everything anew: events were lost.
type Refresh struct {
	At time.Time `json:"at"`
}

// Alive keeps the connection open through proxies.
type Alive struct {
	At time.Time `json:"at"`
}

// eventsPath is the address of the stream.
const eventsPath = "/api/events"

const aliveEvery = 20 * time.Second

// events is the one stream a browser keeps: everything that changes in the
// repositories its person may see.
func (s *Server) events() route {
	op := operation("GET", eventsPath, SignedIn, "Stream what changes, as server-sent events")
	return route{"GET", eventsPath, SignedIn, op.Summary, func(api huma.API) {
		sse.Register(api, op, map[string]any{"change": store.Event{}, "refresh": Refresh{}, "alive": Alive{}},
			func(ctx context.Context, _ *struct{}, send sse.Sender) {
				w, _ := ctx.Value(whoKey{}).(*who)
				st := s.hub.open(w.person.ID)
				defer s.hub.leave(st)
				tick := time.NewTicker(aliveEvery)
				defer tick.Stop()
				if send.Data(Alive{time.Now()}) != nil {
					return
				}
				for {
					var err error
					select {
					case <-ctx.Done():
						return
					case <-s.hub.done:
						return
					case <-st.lost:
						err = send.Data(Refresh{time.Now()})
					case <-tick.C:
						if err = s.still(ctx, w); err == nil {
							err = send.Data(Alive{time.Now()})
						}
					case <-st.check:
						err = s.still(ctx, w)
					case e := <-st.events:
						if s.maySee(ctx, w.person, e) {
							err = send.Data(e)
						}
					}
					if err != nil {
						return
					}
				}
			})
	}}
}

// still is an error once a stream's session has ended.
func (s *Server) still(ctx context.Context, w *who) error {
	p, err := s.signedInBy(ctx, w.token)
	if err == nil && p == nil {
		err = errSignIn
	}
	return err
}

// maySee asks anew for each event: a part may have been taken away meanwhile.
func (s *Server) maySee(ctx context.Context, p *store.Person, e store.Event) bool {
	if e.PrivateTo != 0 && e.PrivateTo != p.ID {
		return false
	}
	key := [2]int64{e.Repository, p.ID}
	if e.Kind == "place" { // there are many of them, and they say little
		if may, ok := s.mayPlaces.Get(key); ok {
			return may
		}
	}
	role, err := s.store.RoleOf(ctx, e.Repository, p)
	may := err == nil && role != store.NoRole
	if e.Kind == "place" && err == nil {
		s.mayPlaces.Add(key, may)
	}
	return may
}
