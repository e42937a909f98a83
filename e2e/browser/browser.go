// Package browser drives the real interface in a real browser, in the words of
// somebody who uses it: open, click what says so, type, press, see.
package browser

import (
	"context"
	"errors"
	"fmt"
	"os"
	"strings"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// Patience is how long anything may take to appear: E2E_PATIENCE, in Go's words for
// durations, while a test is being written.
var Patience = func() time.Duration {
	if d, err := time.ParseDuration(os.Getenv("E2E_PATIENCE")); err == nil {
		return d
	}
	return 30 * time.Second
}()

// Browser is a running Chromium.
type Browser struct {
	ctx  context.Context
	stop func()
}

// Start starts Chromium with a profile of its own.
func Start(ctx context.Context) (*Browser, error) {
	profile, err := os.MkdirTemp("", "juxtagram-browser-")
	if err != nil {
		return nil, err
	}
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath("/usr/bin/chromium"), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.UserDataDir(profile),
		chromedp.WindowSize(1280, 800), chromedp.Flag("disable-dev-shm-usage", false), chromedp.Flag("disable-quic", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("hide-scrollbars", true), chromedp.Flag("js-flags", "--no-maglev --no-turbofan"), chromedp.Flag("force-prefers-reduced-motion", true))
	alloc, stopAlloc := chromedp.NewExecAllocator(ctx, options...)
	b, stopBrowser := chromedp.NewContext(alloc)
	stop := func() {
		stopBrowser()
		stopAlloc()
		_ = os.RemoveAll(profile)
	}
	if err := chromedp.Do(b); err != nil {
		stop()
		return nil, err
	}
	return &Browser{b, stop}, nil
}

// Close ends the browser.
func (b *Browser) Close() { b.stop() }

// Page is one tab, signed in as nobody or somebody of its own.
type Page struct {
	ctx  context.Context
	base string
	stop func()
}

// NewPage opens a tab with cookies of its own, at 1280x800.
func (b *Browser) NewPage(base string) (*Page, error) {
	ctx, stop := chromedp.NewContext(b.ctx, chromedp.WithNewBrowserContext())
	// the tab lives as long as the context of its first step
	if err := chromedp.Do(ctx); err != nil {
		stop()
		return nil, err
	}
	p := &Page{ctx, base, stop}
	return p, errors.Join(p.Size(1280, 800), p.focused())
}

// Beside opens another tab of the same person, which shares cookies and storage.
func (p *Page) Beside() (*Page, error) {
	ctx, stop := chromedp.NewContext(p.ctx)
	if err := chromedp.Do(ctx); err != nil {
		stop()
		return nil, err
	}
	q := &Page{ctx, p.base, stop}
	return q, errors.Join(q.Size(1280, 800), q.focused())
}

// focused has the tab take itself for the one in front, whatever other tabs do.
func (p *Page) focused() error {
	return p.do("giving the focus", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true})
		return err
	}))
}

// Cookie sets a cookie for the application.
func (p *Page) Cookie(name, value string) error {
	set := network.SetCookieParams{Name: name, Value: value, URL: p.base}
	return p.do("setting a cookie", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, network.SetCookie, set)
		return err
	}))
}

// Dark says whether the system asks for dark colours.
func (p *Page) Dark(on bool) error {
	value := "light"
	if on {
		value = "dark"
	}
	wish := emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: value}}}
	return p.do("", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, wish)
		return err
	}))
}

// Close closes the tab.
func (p *Page) Close() { p.stop() }

// Size sets the window's size in pixels.
func (p *Page) Size(width, height int64) error {
	return p.do("", chromedp.EmulateViewport(width, height))
}

func (p *Page) do(what string, steps ...chromedp.Action[chromedp.Void]) error {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		look, cancel := context.WithTimeout(p.ctx, Patience)
		defer cancel()
		where, _ := chromedp.Run(look, chromedp.Location())
		seen, _ := chromedp.Run(look, chromedp.Evaluate[string](`document.body.innerText.slice(0, 1500)`))
		return fmt.Errorf("%s at %s: %w; the page reads:\n%s", what, where, err, seen)
	}
	return nil
}

// Open goes to a path of the application, or to a whole address.
func (p *Page) Open(path string) error {
	if strings.HasPrefix(path, "/") {
		path = p.base + path
	}
	return p.do("opening "+path, chromedp.Navigate(path))
}

// Back goes one page back, as the browser's own button and key do.
func (p *Page) Back() error { return p.do("going back", chromedp.NavigateBack()) }

// text is an XPath of the innermost visible elements that hold a text.
func text(s string) string {
	return fmt.Sprintf(`//*[not(self::script or self::style or self::title) and contains(normalize-space(.), %s) and not(*[contains(normalize-space(.), %[1]s)])]`, quote(s))
}

// found is JavaScript for the first visible element of an XPath ("//…") or a CSS
// selector; null: there is none. The page is asked anew each time, so that
// elements that come and go under the eyes are no trouble.
func found(query string) string {
	all := fmt.Sprintf(`[...document.querySelectorAll(%q)]`, query)
	if strings.HasPrefix(query, "//") {
		all = fmt.Sprintf(`(r => Array.from({length: r.snapshotLength}, (_, i) => r.snapshotItem(i)))(document.evaluate(%q, document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE, null))`, query)
	}
	return fmt.Sprintf(`(%s.find(e => e.getClientRects().length && getComputedStyle(e).visibility !== 'hidden') ?? null)`, all)
}

func poll(script string) chromedp.Action[chromedp.Void] {
	return chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := chromedp.Run(ctx, chromedp.Poll[bool](script, chromedp.WithPollingInterval(30*time.Millisecond)))
		return err
	})
}

// click presses the mouse in the middle of what a query finds, once that stands
// still and nothing lies over it.
func (p *Page) click(what, query string) error {
	const still = `(async find => {
		for (let last = '', since = 0, until = performance.now() + %d; performance.now() < until; await new Promise(requestAnimationFrame)) {
			const e = find()
			if (!e) continue
			e.scrollIntoView({ block: 'center', inline: 'nearest', behavior: 'instant' })
			const r = e.getClientRects()[0], x = r.x + r.width / 2, y = r.y + r.height / 2
			const top = document.elementFromPoint(x, y)
			if (x + ' ' + y !== last) since = performance.now()
			last = x + ' ' + y
			if (performance.now() - since > 120 && top && (e.contains(top) || top.contains(e))) return [x, y]
		}
		return []
	})(() => %s)`
	at, err := Ask[[]float64](p, fmt.Sprintf(still, Patience.Milliseconds(), found(query)))
	if err != nil || len(at) != 2 {
		return p.do(what, chromedp.Func(func(context.Context, *chromedp.Target) error {
			return errors.Join(errors.New("nothing that can be clicked"), err)
		}))
	}
	return p.do(what, chromedp.MouseClickXY(at[0], at[1]))
}

func quote(s string) string {
	if !strings.Contains(s, `"`) {
		return `"` + s + `"`
	}
	return `concat("` + strings.ReplaceAll(s, `"`, `", '"', "`) + `")`
}

// See waits until a text can be seen.
func (p *Page) See(s string) error {
	return p.do("waiting to see "+s, poll(found(text(s))+` !== null`))
}

// SeeNot waits until a text is gone.
func (p *Page) SeeNot(s string) error {
	return p.do("waiting for the end of "+s, poll(found(text(s))+` === null`))
}

// Click clicks the button or link with a text.
func (p *Page) Click(s string) error {
	return p.click("clicking "+s, fmt.Sprintf(`//*[(self::button or self::a or self::label or @role="menuitem" or @role="option") and contains(normalize-space(.), %s)]`, quote(s)))
}

// ClickAt clicks what a CSS selector finds.
func (p *Page) ClickAt(css string) error { return p.click("clicking "+css, css) }

// Fill types into the field with a name, in place of what stands there.
func (p *Page) Fill(name, value string) error {
	css := fmt.Sprintf(`[name=%q]`, name)
	return p.do("filling "+name, chromedp.WaitVisible(css), chromedp.Click(css), keys("a", chromedp.ModifierCtrl), keys(kb.Delete+value))
}

// keys presses one key after the other. A key that writes is down and writes at
// once, as by hand: a page that answers to it is not written into.
func keys(list string, modifiers ...chromedp.Modifier) chromedp.Action[chromedp.Void] {
	return chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, r := range list {
			events := kb.Encode(r)
			down, up := *events[0], *events[len(events)-1]
			for _, m := range modifiers {
				down.Modifiers |= int64(m)
				up.Modifiers |= int64(m)
			}
			if len(events) == 3 && down.Modifiers&^int64(chromedp.ModifierShift) == 0 {
				down.Text, down.UnmodifiedText = events[1].Text, events[1].UnmodifiedText
			}
			for _, event := range []input.DispatchKeyEventParams{down, up} {
				if _, err := cdp.Call(ctx, t, input.DispatchKeyEvent, event); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// Attach chooses files in the field with this name.
func (p *Page) Attach(name string, files ...string) error {
	return p.do("choosing files for "+name, chromedp.SetUploadFiles(`input[name="`+name+`"]`, files))
}

// Holds waits until the field with a name holds a text.
func (p *Page) Holds(name, value string) error {
	return p.do("waiting for "+value+" in "+name, poll(fmt.Sprintf(`[...document.querySelectorAll('[name="%s"]')].some((x) => x.value.includes(%q))`, name, value)))
}

// Press presses keys: letters as they are, others from package kb.
func (p *Page) Press(list string) error {
	return p.do("pressing a key", keys(list))
}

// PressWith presses a key with modifiers held.
func (p *Page) PressWith(key string, modifiers ...chromedp.Modifier) error {
	return p.do("pressing a key", keys(key, modifiers...))
}

// Visible waits for what a CSS selector finds.
func (p *Page) Visible(css string) error {
	return p.do("waiting for "+css, poll(found(css)+` !== null`))
}

// Gone waits until a CSS selector finds nothing that can be seen.
func (p *Page) Gone(css string) error {
	return p.do("waiting for the end of "+css, poll(found(css)+` === null`))
}

// Count tells how many elements a CSS selector finds.
func (p *Page) Count(css string) (int, error) {
	return chromedp.Run(p.ctx, chromedp.Evaluate[int](fmt.Sprintf(`document.querySelectorAll(%q).length`, css)))
}

// Text is the text of the first element a CSS selector finds.
func (p *Page) Text(css string) (string, error) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Text(css))
}

// Drag drags one element onto another, by hand.
func (p *Page) Drag(from, to string) error {
	return p.do("dragging", chromedp.WaitVisible(from), chromedp.WaitVisible(to), chromedp.DragAndDrop(from, to))
}

// Picture takes a PNG of the tab.
func (p *Page) Picture(file string) error {
	b, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	if err != nil {
		return err
	}
	return os.WriteFile(file, b, 0o644)
}

// Settle waits until nothing is being fetched and the fonts are there.
func (p *Page) Settle() error {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	const quiet = `document.fonts.status === 'loaded' && !document.querySelector('.ant-spin-spinning') && performance.now() - Math.max(0, ...performance.getEntriesByType('resource').map(e => e.responseEnd)) > 350`
	_, err := chromedp.Run(ctx, chromedp.Poll[bool](quiet))
	return err
}

// SignIn signs in by the form.
func (p *Page) SignIn(email, password string) error {
	for _, step := range []func() error{
		func() error { return p.Open("/sign-in") },
		func() error { return p.Fill("email", email) },
		func() error { return p.Fill("password", password) },
		func() error { return p.ClickAt(`button[type="submit"]`) },
		func() error { return p.See("The shelf") },
	} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

// Value is what stands in a field.
func (p *Page) Value(css string) (string, error) {
	ctx, cancel := context.WithTimeout(p.ctx, Patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Value(css))
}

// Ask evaluates JavaScript in the page and waits for its promise, if it gives
// one: for measuring, not for doing what a person would.
func Ask[T any](p *Page, script string) (T, error) {
	ctx, cancel := context.WithTimeout(p.ctx, 4*Patience)
	defer cancel()
	return chromedp.Run(ctx, chromedp.Evaluate[T](script, chromedp.EvalAwaitPromise))
}
