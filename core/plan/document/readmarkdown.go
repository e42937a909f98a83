package document

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"juxtagram/core/plan"
)

// hand reads Markdown piece by piece.
type hand struct {
	*reader
	doc      *document
	setting  Setting
	note     map[string]*piece // comments that wait for what they are about
	names    int               // how many parts were named
	passages int               // how many were begun
	numbers  map[string]string // number of a passage, as it is written or else counted → its id
	said     bool              // it says that it is a plan
	in       string            // "plan", "chapter", "passage" or "ideas"
	led      bool              // the passage's target is read
	sawTry   plan.Trial        // what the passage says is to be tried
	list     string            // whose list comes next: "questions" or "pauses"
}

var (
	chapterNumber = regexp.MustCompile(`^[IVXLCDM]+\.(?: |$)`)
	passageNumber = regexp.MustCompile(`^(\d+)\.(?: |$)`)
	summaryLine   = regexp.MustCompile(`(?s)^\*\d+ passages?\b.*\*$`)
	labelled      = regexp.MustCompile(`(?s)^\*\*(After it|Before it|Where|On|Set up|Give it|What should come|Stop at|Ask yourself):\*\*\s*(.*)$`)
	caution       = regexp.MustCompile(`(?s)^> \*\*Caution:\*\* (.*)$`)
	reason        = regexp.MustCompile(`(?s)^<sub>(.*)</sub>$`)
	ideaLine      = regexp.MustCompile(`^\*\*(.+?)\*\*(?: \(introduced in (\d+)\))?$`)
	itemOfList    = regexp.MustCompile(`^[-*+] (.*)`)
)

// markdown reads a plan as WriteMarkdown writes it, or as people write it by the same
// conventions: headings for chapters and passages, a link for what is to be read.
func (r *reader) markdown(content string, in Setting) (*document, error) {
	h := &hand{reader: r, doc: &document{}, setting: in, note: map[string]*piece{}, numbers: map[string]string{}}
	pieces := scan(content)
	for i := range pieces {
		if err := h.piece(&pieces[i]); err != nil {
			return nil, err
		}
	}
	h.endPassage()
	if !h.said && h.passages == 0 {
		return nil, unreadable("it is neither JSON nor Markdown of a plan: it has no passage, a heading as “### 1. What to read” with a link to code below it")
	}
	h.needsByHand()
	return h.doc, nil
}

func at(p *piece) string { return fmt.Sprintf("line %d", p.line) }

func (h *hand) piece(p *piece) error {
	switch p.kind {
	case "comment":
		return h.comment(p)
	case "heading":
		h.heading(p)
	case "text":
		if p.cut {
			h.problem(at(p), "the end of this text is not marked: all up to the next passage is taken as its text")
		}
		if h.in != "passage" && (h.in != "ideas" || len(h.doc.Ideas) == 0) {
			h.problem(at(p), "this text belongs to no passage and no idea: it is left out")
			break
		}
		h.text(p.text)
	case "block":
		h.block(p)
	}
	return nil
}

// comment keeps what a comment says for the part that follows it.
func (h *hand) comment(p *piece) error {
	family, _, _ := strings.Cut(Format, "/")
	switch {
	case strings.HasPrefix(p.name, family+"/"):
		if err := checkFormat(p.name); err != nil {
			return err
		}
		h.said = true
		head := struct {
			Folder   string     `json:"folder"`
			Budget   int        `json:"budget"`
			Goal     *plan.Goal `json:"goal"`
			SetAside []aside    `json:"set_aside"`
		}{Folder: h.setting.Folder}
		if h.read(p, &head) {
			h.setting.Folder, h.doc.Budget, h.doc.Goal, h.doc.SetAside = head.Folder, head.Budget, head.Goal, head.SetAside
		}
	case p.name == "chapter" || p.name == "passage" || p.name == "idea":
		h.note[p.name] = p
	}
	return nil
}

// read reads a comment's value, or tells why it cannot be.
func (h *hand) read(p *piece, into any) bool {
	if p.cut {
		h.problem(at(p), "this comment does not end on its line: it is left out")
		return false
	}
	if err := json.Unmarshal([]byte(p.text), into); err != nil {
		h.problem(at(p), "this comment cannot be read: %s: it is left out", err)
		return false
	}
	return true
}

// noted takes the comment that stands before a part.
func (h *hand) noted(name string, into any) bool {
	p := h.note[name]
	h.note = map[string]*piece{}
	return p != nil && h.read(p, into)
}

// id gives a part its own id, or one made of its place.
func (h *hand) id(own, title string) string {
	if own != "" {
		return own
	}
	h.names++
	sum := sha256.Sum256(fmt.Appendf(nil, "%d\x00%s", h.names, title))
	return "taken-" + hex.EncodeToString(sum[:8])
}

func (h *hand) heading(p *piece) {
	text := strings.TrimSpace(p.text)
	_, chapterNoted := h.note["chapter"]
	switch {
	case p.level == 1 && h.doc.Title == "" && h.in == "":
		h.in, h.doc.Title = "plan", plain(text)
	case p.level == 1:
		h.problem(at(p), "a second title, “%s”: it is left out", clipped(text))
	case p.level == 2 && text == "Ideas" && !chapterNoted:
		h.endPassage()
		h.in = "ideas"
	case p.level == 2:
		h.endPassage()
		h.chapter(p, plain(chapterNumber.ReplaceAllString(text, "")))
	case p.level == 3:
		h.endPassage()
		h.passage(p, text)
	default:
		h.block(&piece{line: p.line, kind: "block", text: strings.Repeat("#", p.level) + " " + p.text})
	}
}

func (h *hand) chapter(p *piece, title string) {
	var own struct {
		ID string `json:"id"`
	}
	h.noted("chapter", &own)
	h.in = "chapter"
	h.doc.Chapters = append(h.doc.Chapters, chapter{at: at(p), ID: h.id(own.ID, title), Title: title})
}

func (h *hand) passage(p *piece, text string) {
	var own struct {
		ID      string      `json:"id"`
		Target  plan.Target `json:"target"`
		Needs   []string    `json:"needs"`
		Drafted string      `json:"drafted"`
	}
	noted := h.noted("passage", &own)
	if len(h.doc.Chapters) == 0 {
		h.problem(at(p), "it stands in no chapter: it is put into one")
		h.chapter(p, "Passages")
	}
	m := passageNumber.FindStringSubmatch(text)
	title := plain(passageNumber.ReplaceAllString(text, ""))
	x := passage{at: at(p), ID: h.id(own.ID, title), Title: title, Target: own.Target, Needs: own.Needs, Drafted: own.Drafted}
	c := &h.doc.Chapters[len(h.doc.Chapters)-1]
	c.Passages = append(c.Passages, x)
	h.passages++
	number := strconv.Itoa(h.passages)
	if m != nil {
		number = m[1]
	}
	if h.numbers[number] == "" {
		h.numbers[number] = x.ID
	}
	h.in, h.led, h.list, h.sawTry = "passage", false, "", plan.Trial{}
	if !noted {
		h.current().Target = plan.Target{}
	}
}

// current is the passage that is being read; nil: none is.
func (h *hand) current() *passage {
	if h.in != "passage" {
		return nil
	}
	c := &h.doc.Chapters[len(h.doc.Chapters)-1]
	return &c.Passages[len(c.Passages)-1]
}

// endPassage completes the passage that was being read, and takes it out again where
// it has nothing read.
func (h *hand) endPassage() {
	x := h.current()
	if x == nil {
		return
	}
	h.in = "chapter"
	if x.Target.Kind == plan.Try && x.Target.Try != nil {
		h.tryAgain(x)
	}
	if x.Target.Kind == "" {
		if !h.led {
			h.problem(x.where(0, 0), "it leads to no code: it is left out")
		}
		c := &h.doc.Chapters[len(h.doc.Chapters)-1]
		c.Passages = c.Passages[:len(c.Passages)-1]
	}
}

func (h *hand) text(text string) {
	if x := h.current(); x != nil {
		x.Text = joined(x.Text, text, "\n\n")
		return
	}
	if n := len(h.doc.Ideas); h.in == "ideas" && n > 0 {
		h.doc.Ideas[n-1].Text = joined(h.doc.Ideas[n-1].Text, text, "\n\n")
	}
}

func joined(a, b, by string) string {
	if a == "" {
		return b
	}
	return a + by + b
}

// block reads a block by where it stands.
func (h *hand) block(p *piece) {
	switch h.in {
	case "plan":
		if !summaryLine.MatchString(p.text) {
			h.doc.Purpose = joined(h.doc.Purpose, plainLines(p.text), "\n")
		}
	case "chapter":
		if len(h.doc.Chapters) == 0 {
			return
		}
		c := &h.doc.Chapters[len(h.doc.Chapters)-1]
		c.Intent = joined(c.Intent, plainLines(p.text), "\n")
	case "passage":
		h.inPassage(p, h.current())
	case "ideas":
		h.idea(p)
	default:
		h.problem(at(p), "this stands before the title: it is left out")
	}
}

func (h *hand) idea(p *piece) {
	m := ideaLine.FindStringSubmatch(p.text)
	if m == nil {
		if len(h.doc.Ideas) == 0 {
			h.problem(at(p), "this is no idea, which begins with its name as **name**: it is left out")
		}
		h.text(p.text)
		return
	}
	var own struct {
		ID string `json:"id"`
		By string `json:"by"`
	}
	h.noted("idea", &own)
	name := plain(m[1])
	if own.By == "" {
		own.By = h.numbers[m[2]]
	}
	h.doc.Ideas = append(h.doc.Ideas, idea{at: at(p), ID: h.id(own.ID, name), Name: name, By: own.By})
}
