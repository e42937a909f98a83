package bench

import (
	"bufio"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/cookiejar"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"

	"juxtagram/core/plan"
	"juxtagram/store"
)

// What composing is measured by. Each is from a key until the frame that shows what
// it did is painted: a message that is sent in a frame arrives behind its painting.
const (
	painted = `const painted = done => { const m = new MessageChannel(); m.port1.onmessage = done; m.port2.postMessage(0) };`
	// the chosen passage moves down by one
	movePassage = `new Promise(done => {` + painted + `
		const ids = () => [...document.querySelectorAll('.passage')].map(x => x.dataset.passage + x.parentElement.dataset.chapter).join()
		const before = ids(), began = performance.now()
		document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', altKey: true, bubbles: true, cancelable: true }))
		const look = () => ids() !== before ? painted(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`
	// the next passage is chosen, and its fields stand there
	choosePassage = `new Promise(done => {` + painted + `
		const at = () => document.querySelector('.passage.at')?.dataset.passage, before = at(), began = performance.now()
		document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true, cancelable: true }))
		const look = () => at() !== before && document.querySelector('[name=passage-title]') ? painted(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`
	// the minutes are changed, and the sum with them
	setMinutes = `new Promise(done => {` + painted + `
		const sum = () => document.querySelector('.sum').textContent, before = sum(), began = performance.now()
		const field = document.querySelector('[name=passage-minutes]')
		field.value = String(Number(field.value) + 1)
		field.dispatchEvent(new Event('change', { bubbles: true }))
		const look = () => sum() !== before ? painted(() => done(performance.now() - began)) : requestAnimationFrame(look)
		look()
	})`
	// one frame, for comparison
	oneFrame   = `new Promise(done => { const began = performance.now(); requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - began))) })`
	quiet      = `new Promise(done => setTimeout(() => done(null), 400))`
	takeFrames = `(() => { window.taken = []; let last = 0; const step = now => { if (last) window.taken.push(now - last); last = now; window.taking = requestAnimationFrame(step) }; requestAnimationFrame(step) })()`
	giveFrames = `(() => { cancelAnimationFrame(window.taking); return { frames: window.taken.sort((a, b) => a - b), blank: 0, rows: window.taken.length } })()`
)

// longPlan is a plan of so many passages on the files of a survey.
func longPlan(b *testing.B, h *house, passages int) *store.Plan {
	r, err := h.store.Repository(ctx, h.id)
	if err != nil {
		b.Fatal(err)
	}
	rows, err := h.store.Pool().Query(ctx, "SELECT path FROM survey_path WHERE NOT folder AND lines > 0 ORDER BY path LIMIT $1", passages)
	if err != nil {
		b.Fatal(err)
	}
	var paths []string
	for rows.Next() {
		var p string
		if err := rows.Scan(&p); err != nil {
			b.Fatal(err)
		}
		paths = append(paths, p)
	}
	if len(paths) < passages {
		b.Fatalf("%d files are too few", len(paths))
	}
	s := plan.New()
	must := func(op plan.Op) {
		if err := s.Apply(op); err != nil {
			b.Fatal(err)
		}
	}
	must(plan.Op{Kind: plan.SetPlan, Field: "title", To: "A long one"})
	order, chapter := "", ""
	for i, path := range paths {
		if order, err = plan.Between(order, ""); err != nil {
			b.Fatal(err)
		}
		if i%20 == 0 {
			chapter = fmt.Sprintf("chapter-%d", i)
			must(plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: chapter, Order: order, Title: "Chapter " + order}})
		}
		p := &plan.Passage{ID: fmt.Sprintf("passage-%d", i), Chapter: chapter, Order: order, Title: "Passage on " + path, Purpose: "so", Text: strings.Repeat("What to look at here. ", 20), Minutes: 4, Target: plan.Target{Kind: plan.File, Path: path, Commit: r.Pin}}
		if i > 0 {
			p.Needs = []string{fmt.Sprintf("passage-%d", i-1-i%min(i, 7))}
		}
		must(plan.Op{Kind: plan.AddPassage, NewPs: p})
	}
	p, err := h.store.AddPlan(ctx, h.id, s, false, 1)
	if err != nil {
		b.Fatal(err)
	}
	return p
}

// BenchmarkComposing: what somebody feels who composes a plan of 500 passages.
func BenchmarkComposing(b *testing.B) {
	if _, err := os.Stat("/usr/bin/chromium"); err != nil {
		b.Skip("there is no browser on this machine")
	}
	for _, passages := range []int{50, 500} {
		b.Run(fmt.Sprintf("passages=%d", passages), func(b *testing.B) {
			h := opened(b, generated(b, sizes()[0]))
			p := longPlan(b, h, passages)
			for b.Loop() {
				medians(b, func() map[string]float64 {
					return visit(b, h, func(v visitor) map[string]float64 {
						v.must(v.Open(fmt.Sprintf("/r/%d/plans/%d/compose?passage=passage-3", h.id, p.ID)))
						v.must(v.Visible(".passage.at"))
						v.must(v.Visible("[name=passage-title]"))
						v.must(v.Settle())
						median := func(script string) float64 {
							var list []float64
							for range 7 {
								list = append(list, asked[float64](b, v.Page, script))
								asked[any](b, v.Page, quiet)
							}
							slices.Sort(list)
							return list[len(list)/2]
						}
						frame := median(oneFrame)
						move, choose, minutes := median(movePassage), median(choosePassage), median(setMinutes)
						rest := asked[scrolled](b, v.Page, restMap)
						v.must(v.Open(fmt.Sprintf("/r/%d/plans/%d/compose", h.id, p.ID)))
						v.must(v.Visible(".passage"))
						v.must(v.Settle())
						asked[any](b, v.Page, takeFrames)
						v.must(v.Drag(".passage:nth-child(2) .grip", ".passage:nth-child(9) .grip"))
						v.must(v.Settle())
						dragged := asked[scrolled](b, v.Page, giveFrames)
						return map[string]float64{"ms-move": move, "x-move/frame": move / frame, "ms-choose": choose, "ms-minutes": minutes, "ms-drag-frame-median": dragged.at(0.5), "ms-drag-frame-p95": dragged.at(0.95), "x-drag-p95/rest": dragged.at(0.95) / rest.at(0.95), "drag-frames": float64(dragged.Rows)}
					})
				})
			}
		})
	}
}

// BenchmarkTogether: 200 people read one plan, each going on every ten seconds;
// every move is seen by all. Memory is of this process, which holds the server
// and all 200 clients.
func BenchmarkTogether(b *testing.B) {
	const readers, moves, every = 200, 400, 50 * time.Millisecond
	h := opened(b, generated(b, sizes()[0]))
	p := longPlan(b, h, 60)
	if _, err := h.store.PublishPlan(ctx, p.ID, 1, p.Seq, "x", ""); err != nil {
		b.Fatal(err)
	}
	hash, _ := argon2id.CreateHash(password, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 16})
	people := make([]*house, readers)
	for i := range people {
		x, err := h.store.AddPerson(ctx, store.Person{Name: fmt.Sprintf("Reader %d", i), Email: fmt.Sprintf("r%d@example.test", i), PasswordHash: hash, CreatedAt: time.Now()}, false)
		if err != nil {
			b.Fatal(err)
		}
		if err := h.store.SetRole(ctx, h.id, x.ID, store.Reader); err != nil {
			b.Fatal(err)
		}
		jar, _ := cookiejar.New(nil)
		people[i] = &house{b: b, url: h.url, id: h.id, store: h.store, http: &http.Client{Jar: jar, Transport: &http.Transport{}}}
		people[i].ask("POST", "/api/sign-in", fmt.Sprintf(`{"email":"r%d@example.test","password":%q}`, i, password))
		people[i].ask("PUT", fmt.Sprintf("/api/repositories/%d/plans/%d/reading", h.id, p.ID), `{"edition":1,"shown":true}`)
	}
	for b.Loop() {
		var began sync.Map // person and passage → when they moved
		var mu sync.Mutex
		var late []float64
		var seen atomic.Int64
		stops := make([]func(), readers)
		for i, x := range people {
			q, err := http.NewRequestWithContext(b.Context(), "GET", h.url+"/api/events", nil)
			if err != nil {
				b.Fatal(err)
			}
			answer, err := x.http.Do(q)
			if err != nil {
				b.Fatal(err)
			}
			stops[i] = func() { _ = answer.Body.Close() }
			go func() {
				lines := bufio.NewScanner(answer.Body)
				for lines.Scan() {
					raw, ok := strings.CutPrefix(lines.Text(), "data: ")
					if !ok {
						continue
					}
					var e store.Event
					if json.Unmarshal([]byte(raw), &e) != nil || e.Kind != "place" {
						continue
					}
					if at, ok := began.Load(fmt.Sprint(e.Person, e.Passage)); ok {
						mu.Lock()
						late = append(late, float64(time.Since(at.(time.Time)).Microseconds())/1000)
						mu.Unlock()
						seen.Add(1)
					}
				}
			}()
		}
		time.Sleep(time.Second) // the streams stand
		var put []float64
		var wait sync.WaitGroup
		for n := range moves {
			x, passage := people[n%readers], fmt.Sprintf("passage-%d", n%60)
			wait.Go(func() {
				began.Store(fmt.Sprint(int64(n%readers)+2, passage), time.Now())
				took := x.ask("PUT", fmt.Sprintf("/api/repositories/%d/plans/%d/place", h.id, p.ID), fmt.Sprintf(`{"passage":%q}`, passage))
				mu.Lock()
				put = append(put, float64(took.Microseconds())/1000)
				mu.Unlock()
			})
			time.Sleep(every)
		}
		wait.Wait()
		for end := time.Now().Add(5 * time.Second); seen.Load() < moves*readers && time.Now().Before(end); {
			time.Sleep(20 * time.Millisecond)
		}
		mu.Lock()
		slices.Sort(late)
		slices.Sort(put)
		if len(late) == 0 {
			b.Fatal("nobody saw anything")
		}
		b.ReportMetric(late[len(late)/2], "ms-seen-median")
		b.ReportMetric(late[len(late)*95/100], "ms-seen-p95")
		b.ReportMetric(late[len(late)*95/100]/put[len(put)/2], "x-seen-p95/request")
		b.ReportMetric(float64(len(late))/float64(moves*readers)*100, "%-seen")
		b.ReportMetric(float64(held(os.Getpid()))/1024, "MB")
		mu.Unlock()
		for _, stop := range stops {
			stop()
		}
	}
}
