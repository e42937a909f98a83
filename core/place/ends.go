package place

import "errors"

// EndOf is the path a file has at the end of the way; ok: it is there.
func (p *Placer) EndOf(path string) (end string, ok bool) {
	if e, known := p.ends[path]; known {
		return e, e != ""
	}
	end = path
	for _, s := range p.steps(path) {
		if end = s.Path; s.Gone {
			end = ""
		}
	}
	if end != "" {
		_, err := p.known.textOf(p.way, p.way.Target(), end)
		if errors.Is(err, ErrNoText) {
			_, err = p.way.Text(p.way.Target(), end) // binary, or not there?
		}
		if errors.Is(err, ErrNoFile) {
			end = p.way.Renamed(path)
		}
	}
	p.ends[path] = end
	return end, end != ""
}

// GoneIn is the commit that took a file away; "": none is known.
func (p *Placer) GoneIn(path string) string {
	if steps := p.steps(path); len(steps) > 0 && steps[len(steps)-1].Gone {
		return steps[len(steps)-1].Commit
	}
	return ""
}
