package demo

import (
	"fmt"
	"strings"

	"juxtagram/core/plan"
)

// PlanTitle is the title of the demo's first plan.
const PlanTitle = "Where does a reading get lost?"

const planPurpose = "For whoever looks into a gap on the board. After it you know every place between the float and the harbour where a reading can vanish."

type passage struct {
	title, purpose, path string
	from, to             string // texts of the first and the last line; "": the whole file
	minutes              int
	why                  string
}

type chapter struct {
	title    string
	passages []passage
}

var chapters = []chapter{
	{"How a reading is made", []passage{
		{"Start the gauge", "One loop, once a second. Note what happens when the self-check fails.", "firmware/main.c", "int main(", "", 4, "entry point: defines main"},
		{"From the timer to the frame", "Follow `raw` from the sensor to the radio. Which lines run when nothing is due?", "firmware/sampler.c", "void sampler_tick(", "self->last = now", 8, "hotspot: the file that changed most"},
		{"What a frame carries", "Twelve bytes. Find the one that is always zero, and why.", "firmware/frame.c", "void frame_pack(", "put16(wire + 10", 4, ""},
	}},
	{"Where it can stall", []passage{
		{"The retry without a limit", "A gauge that is too cold answers `SENSOR_BUSY`. Watch what the loop does with `i`, and ask how long one reading may take in January.", "firmware/sampler.c", "static int16_t take_median", "return median_of", 6, "FIXME: known to be wrong; on the way from timer to port"},
		{"Half a frame", "What has the radio got when `write` fails in the middle? The other platform answers differently.", "firmware/port/serial_unix.c", "static bool port_send_frame", "return true;", 6, "BUG: a known fault"},
		{"What the winter taught", "The same fault, as it looked from ashore.", "docs/winter.md", "", "", 3, ""},
	}},
	{"Where it is dropped", []passage{
		{"Looking for the next frame", "One byte on, not twelve. Which counter tells you that this happened?", "collector/ingest/link.go", "func (l *Link) Run()", "l.hand(r)", 6, "hotspot"},
		{"Repeats by sequence number", "Read the comment first. Then think of a gauge that restarts twice in an hour.", "collector/ingest/dedupe.go", "// First tells", "return true", 6, "BUG: a known fault"},
		{"The clock that jumps", "Readings find their place by time. What if the gauge's clock is a day ahead?", "collector/store/memory.go", "func (m *Memory) Add", "m.by[r.Station]", 5, ""},
	}},
	{"Where it is hidden", []passage{
		{"Missing hours on the board", "A gap is shown as a gap, on purpose. From how many minutes on?", "board/src/tide_curve.ts", "export const gapMinutes", "return out", 4, "hotspot"},
		{"All that ingests", "Skim the folder once more. You know now what each file is for.", "collector/ingest", "", "", 3, ""},
	}},
}

// PlanOps are the operations that make the demo's plan at a commit. Lines are
// looked up in the files' final texts.
func PlanOps(commit string) ([]plan.Op, error) {
	files, err := Files()
	if err != nil {
		return nil, err
	}
	ops := []plan.Op{{Kind: plan.SetPlan, Field: "purpose", To: planPurpose}}
	chapterKey, number := "", 0
	for i, c := range chapters {
		if chapterKey, err = plan.Between(chapterKey, ""); err != nil {
			return nil, err
		}
		id := fmt.Sprintf("demo-chapter-%d", i+1)
		ops = append(ops, plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: id, Order: chapterKey, Title: c.title}})
		key := ""
		for _, p := range c.passages {
			number++
			if key, err = plan.Between(key, ""); err != nil {
				return nil, err
			}
			target, err := p.target(files, commit)
			if err != nil {
				return nil, err
			}
			ops = append(ops, plan.Op{Kind: plan.AddPassage, NewPs: &plan.Passage{ID: fmt.Sprintf("demo-passage-%d", number), Chapter: id, Order: key,
				Target: target, Title: p.title, Purpose: p.purpose, Minutes: p.minutes, Why: p.why}})
		}
	}
	return ops, nil
}

func (p passage) target(files map[string][]byte, commit string) (plan.Target, error) {
	content, ok := files[p.path]
	switch {
	case !ok:
		return plan.Target{Kind: plan.Folder, Path: p.path, Commit: commit}, nil
	case p.from == "":
		return plan.Target{Kind: plan.File, Path: p.path, Commit: commit}, nil
	}
	lines := strings.Split(string(content), "\n")
	start, end := 0, 0
	for i, l := range lines {
		if start == 0 && strings.Contains(l, p.from) {
			start = i + 1
		}
		if start != 0 && end == 0 && (p.to != "" && i+1 > start && strings.Contains(l, p.to)) {
			end = i + 1
		}
	}
	if p.to == "" {
		end = len(lines) - 1
	}
	if start == 0 || end == 0 {
		return plan.Target{}, fmt.Errorf("%s: no lines from %q to %q", p.path, p.from, p.to)
	}
	return plan.Target{Kind: plan.Lines, Path: p.path, Start: start, End: end, Commit: commit}, nil
}
