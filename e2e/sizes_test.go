package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/e2e/browser"
)

// planOf begins a plan of passages of given targets, each as JSON without its commit.
func planOf(t *testing.T, p *browser.Page, targets ...string) {
	t.Helper()
	list := ""
	for _, x := range targets {
		list += x + ","
	}
	n, err := browser.Ask[int](p, fmt.Sprintf(`(async () => {
		const send = (path, body) => fetch('/api/repositories/1/plans' + path, {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify(body)}).then(async (r) => r.ok ? r.json() : Promise.reject(await r.text()))
		const { pin } = await (await fetch('/api/repositories/1')).json()
		const plan = await send('', { title: 'Sizes' })
		const op = (i, op) => ({ client_id: 'client-' + i, op })
		const ops = [op('c', { kind: 'add-chapter', new_chapter: { id: 'chapter-1', order: 'V', title: 'One' } })]
		for (const [i, target] of [%s].entries())
			ops.push(op(i, { kind: 'add-passage', new_passage: { id: 'passage-' + i, chapter: 'chapter-1', order: 'V' + 'ABCDEFGH'[i], title: 'Passage ' + i, purpose: 'so', caution: 'mind the tide', minutes: 5, target: { commit: pin, ...target } } }))
		return (await send('/' + plan.id + '/ops', { ops })).seq
	})()`, list))
	require.NoError(t, err)
	require.Equal(t, len(targets)+1, n)
}

// seenLines are the lines of the code pane that stand wholly in its sight.
const seenLines = `(() => {
	const pane = document.querySelector('.cm-scroller').getBoundingClientRect()
	return [...document.querySelectorAll('.cm-in')].filter((l) => { const r = l.getBoundingClientRect(); return r.top >= pane.top - 1 && r.bottom <= Math.min(pane.bottom, innerHeight) + 1 }).length
})()`

// The guide at the three sizes: twenty lines are seen at once, nothing leads sideways,
// and on a phone the passage comes first, then the code, then the rest.
func TestTheGuideAtThreeSizes(t *testing.T) {
	p := desk(t)
	planOf(t, p, `{kind: 'lines', path: 'firmware/sampler.c', start: 21, end: 40}`, `{kind: 'lines', path: 'README.md', start: 1, end: 12}`)
	for _, size := range [][2]int64{{1280, 800}, {1024, 768}, {390, 844}} {
		t.Run(fmt.Sprint(size[0]), func(t *testing.T) {
			steps(t, p.Size(size[0], size[1]), p.Open("/r/1/plans/1?passage=passage-0"), p.Visible(".cm-in"), p.Settle())
			wide, err := browser.Ask[int64](p, `document.documentElement.scrollWidth`)
			require.NoError(t, err)
			assert.LessOrEqual(t, wide, size[0], "nothing leads sideways")
			if size[0] > 700 {
				n, err := browser.Ask[int](p, seenLines)
				require.NoError(t, err)
				assert.Equal(t, 20, n, "a passage of twenty lines is seen whole")
			} else {
				order, err := browser.Ask[bool](p, `(() => { const top = (css) => document.querySelector(css).getBoundingClientRect().top; return top('.guide .text h1') < top('.guide .sheet') && top('.guide .sheet') < top('.guide .rest') })()`)
				require.NoError(t, err)
				assert.True(t, order, "passage, code, then the rest")
				steps(t, p.Click("notes"), p.Visible(`dialog[aria-label="Ideas and questions"]`), p.See("ask the writers"), p.Press(kb.Escape), p.Gone("dialog[open]"))
			}
			steps(t, p.Click("Contents"), p.Visible(`[aria-label="Contents of the plan"]:focus-within`), p.Press(kb.Escape), p.Gone(`[aria-label="Contents of the plan"]`))
			// a Markdown passage is prose
			steps(t, p.Open("/r/1/plans/1?passage=passage-1"), p.Visible("article.markdown h1"))
			n, err := p.Count("article.markdown h1")
			require.NoError(t, err)
			assert.Equal(t, 1, n)
		})
	}
	for path, see := range map[string]string{"/r/1/plans": "Sizes", "/r/1/read": "firmware/", "/r/1/read?path=firmware/sampler.c": "sampler.c"} {
		steps(t, p.Open(path), p.See(see), p.Settle())
		wide, err := browser.Ask[int64](p, `document.documentElement.scrollWidth`)
		require.NoError(t, err)
		assert.LessOrEqual(t, wide, int64(390), path)
	}
}

// Every passage that touches a file stands beside it, with its caution.
func TestReadShowsEveryPassageOfAFile(t *testing.T) {
	p := desk(t)
	planOf(t, p, `{kind: 'lines', path: 'firmware/sampler.c', start: 10, end: 21}`, `{kind: 'symbol', path: 'firmware/sampler.c', symbol: 'sampler_init', start: 30, end: 39}`,
		`{kind: 'pair', path: 'firmware/frame.c', start: 1, end: 5, beside: {path: 'firmware/sampler.c', start: 41, end: 44}}`,
		`{kind: 'way', path: '', hops: [{path: 'firmware/sampler.c', start: 46, end: 46}, {path: 'firmware/frame.c', start: 1, end: 3}]}`, `{kind: 'file', path: 'firmware/sampler.c'}`)
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c"), p.Visible(".note.planned"), p.Settle())
	heads, err := browser.Ask[[]string](p, `[...document.querySelectorAll('.note.planned header button')].map((x) => x.textContent.trim())`)
	require.NoError(t, err)
	assert.Equal(t, []string{"Passage 5 · the whole file · 5 min", "Passage 1 · lines 10-21 · 5 min", "Passage 2 · sampler_init, lines 30-39 · a symbol · 5 min", "Passage 3 · lines 41-44 · two things side by side · 5 min", "Passage 4 · line 46 · a way · 5 min"}, heads)
	n, err := p.Count(".note.planned .caution")
	require.NoError(t, err)
	assert.Equal(t, 5, n)
	steps(t, p.Visible(".outline .marks .planned, nav .marks .planned, .marks .planned"), p.Open("/r/1/map?at=firmware/sampler.c"), p.See("Sizes, passage 5"))
}

// The definition's card lies in the column that can be seen, however long the lines are,
// and an address of a folder opens the folder, a page has a title of its own.
func TestASharedDefinitionDoesNotScrollSideways(t *testing.T) {
	p := desk(t)
	for _, width := range []int64{1280, 1024} {
		steps(t, p.Size(width, 800), p.Open("/r/1/read?path=collector/main.go&lines=27&name=27.19"), p.Visible(".definition .source"), p.Settle())
		inside, err := browser.Ask[[]float64](p, `(() => {
			const pane = document.querySelector('.cm-scroller'), card = document.querySelector('.definition').getBoundingClientRect(), box = pane.getBoundingClientRect()
			const esc = [...document.querySelectorAll('.definition header button')].at(-1).getBoundingClientRect()
			return [pane.scrollLeft, card.left - box.left, box.right - card.right, card.right - esc.right, document.documentElement.scrollLeft]
		})()`)
		require.NoError(t, err)
		assert.Zero(t, inside[0])
		assert.GreaterOrEqual(t, inside[1], 0.0)
		assert.GreaterOrEqual(t, inside[2], -1.0, "the card ends in the column")
		assert.GreaterOrEqual(t, inside[3], 0.0, "its Esc is not cut")
		assert.Zero(t, inside[4])
	}
	title := func() string {
		s, err := browser.Ask[string](p, `document.title`)
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, "main.go · m · Juxtagram", title())
	steps(t, p.Open("/r/1/read?path=firmware"), p.See("sampler.c"))
	where, err := browser.Ask[string](p, `location.search`)
	require.NoError(t, err)
	assert.Equal(t, "?folder=firmware", where)
	steps(t, p.Open("/r/1/map"), p.See("How to read this"))
	assert.Equal(t, "Map · m · Juxtagram", title())
}
