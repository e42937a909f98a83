package e2e
import ("testing";"fmt";"juxtagram/e2e/browser";"time")
func TestZZ(t *testing.T) {
	p := desk(t)
	steps(t, p.Open("/r/1/read?path=firmware/sampler.c&lines=45-49"), p.Visible(".cm-line"), p.Settle())
	steps(t, p.Press("l"), p.Visible(".cm-content:focus"), p.Press("b"))
	for i := range 4 {
		time.Sleep(300*time.Millisecond)
		s, err := browser.Ask[string](p, `document.activeElement.outerHTML.slice(0,200)+' | '+[...document.querySelectorAll('dialog')].map(d=>d.open+d.outerHTML.slice(0,300)).join(' # ')`)
		fmt.Println(i, s, err)
	}
	p.Picture("/tmp/s/zz.png")
}
