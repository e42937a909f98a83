package note_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"juxtagram/core/note"
)

func TestRead(t *testing.T) {
	for _, c := range []struct {
		text                   string
		tags, mentions, issues []string
	}{
		{"Saw it #cold-start again, see #41", []string{"cold-start"}, nil, []string{"41"}},
		{"#Cold and #cold are one", []string{"cold"}, nil, nil},
		{`\#no, ` + "`#no`, [x](y#no), <https://a.example/#no>", nil, nil, nil},
		{"```\n#no @no\n```\n\n    #no\n", nil, nil, nil},
		{"[a #yes](z)", []string{"yes"}, nil, nil},
		{"# A heading\n\n#tag at a line's start", []string{"tag"}, nil, nil},
		{"#12abc is neither, #1 is", nil, nil, []string{"1"}},
		{"ask @Kip.Marrow, @oona. Not a@b.example", nil, []string{"Kip.Marrow", "oona"}, nil},
		{"word#no ##no", nil, nil, nil},
		{"#straße #日本", []string{"straße", "日本"}, nil, nil},
		{"https://a.example/#no and /#no", nil, nil, nil},
	} {
		t.Run(c.text, func(t *testing.T) {
			s := note.Read(c.text)
			assert.Equal(t, c.tags, s.Tags)
			assert.Equal(t, c.mentions, s.Mentions)
			assert.Equal(t, c.issues, s.Issues)
		})
	}
}

var links = note.Links{
	Tag:     func(tag string) string { return "/notes?tag=" + tag },
	Mention: func(name string) (string, bool) { return "Oona <Fell>", name == "oona" },
	Attached: func(id string) *note.Attached {
		switch id {
		case "7":
			return &note.Attached{Address: "/attachments/1/7", Picture: true, Width: 30, Height: 20}
		case "8":
			return &note.Attached{Address: "/attachments/1/8"}
		}
		return nil
	},
}

func TestTermsLeadWhereTheyFirstStand(t *testing.T) {
	l := note.Links{Idea: func(id string) string { return "#idea-" + id }, Terms: []note.Term{{"frame", "#idea-a"}, {"tide gauge", "#idea-b"}, {"ing", "#idea-c"}}}
	for text, want := range map[string]string{
		"A frame, another frame":                     `<p>A <a class="idea" href="#idea-a" rel="nofollow">frame</a>, another frame</p>`,
		"Frames `frame` [frame](/x) and a Frame.":    `<p>Frames <code>frame</code> <a href="/x" rel="nofollow">frame</a> and a <a class="idea" href="#idea-a" rel="nofollow">Frame</a>.</p>`,
		"The tide gauge\nreads **a frame**\nthen":    "<p>The <a class=\"idea\" href=\"#idea-b\" rel=\"nofollow\">tide gauge</a>\nreads <strong>a <a class=\"idea\" href=\"#idea-a\" rel=\"nofollow\">frame</a></strong>\nthen</p>",
		"[a word](idea:z) [x](term:#y) [z](idea:\")": `<p><a class="idea" href="#idea-z" rel="nofollow">a word</a> <em>x</em> <a class="idea" href="#idea-%22" rel="nofollow">z</a></p>`,
		"reading and missing":                        "<p>reading and missing</p>",
	} {
		assert.Equal(t, want, strings.TrimSpace(note.HTML(text, l)), text)
	}
	assert.Equal(t, []string{"z"}, note.Read("[a](idea:z) `[b](idea:y)` [c](idea:z)").Ideas)
}

func TestAttach(t *testing.T) {
	for _, name := range []string{"tide.png", "a_b*c`#d@e.txt", `a\[b]!<c>.log`} {
		for _, picture := range []bool{true, false} {
			text := "see " + note.Attach("7", name, picture) + " and more"
			s := note.Read(text)
			assert.Equal(t, []string{"7"}, s.Attached, text)
			assert.Empty(t, s.Tags, text)
			assert.Empty(t, s.Mentions, text)
			assert.Contains(t, note.HTML(text, note.Links{}), "see <em>"+strings.NewReplacer("<", "&lt;", ">", "&gt;").Replace(name)+"</em> and more")
		}
	}
	assert.Equal(t, []string{"b", "c"}, note.Read("![x](attachment:b) `![x](attachment:a)` [y][z]\n\n[z]: attachment:c").Attached)
}

func TestHTML(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"a #tag", `<p>a <a class="tag" href="/notes?tag=tag" rel="nofollow">#tag</a></p>`},
		{"@oona and @nobody", `<p><b class="mention">@Oona &lt;Fell&gt;</b> and @nobody</p>`},
		{"see #4", `<p>see <span class="issue">#4</span></p>`},
		{`\#x`, "<p>#x</p>"},
		{"![a *tide*](attachment:7)", `<p><a class="attached" href="/attachments/1/7" rel="nofollow"><img src="/attachments/1/7" alt="a tide" width="30" height="20"></a></p>`},
		{"[a *log*](attachment:8)", `<p><a class="attached" href="/attachments/1/8" rel="nofollow">a <em>log</em></a></p>`},
		{"![a log](attachment:8)", `<p><a class="attached" href="/attachments/1/8" rel="nofollow">a log</a></p>`},
		{"![x](attachment:9) [y](attachment:9)", "<p><em>x</em> <em>y</em></p>"},
		{"[x](https://a.example/b?c=d&e)", `<p><a href="https://a.example/b?c=d&amp;e" rel="nofollow">x</a></p>`},
		{"![x](https://elsewhere.example/t.png)", "<p><em>x</em></p>"},
		{"![x](data:image/png;base64,AAAA)", "<p><em>x</em></p>"},
		{"<b>x</b> and\n\n<div>y</div>", "<p>&lt;b&gt;x&lt;/b&gt; and</p>\n<p>&lt;div&gt;y&lt;/div&gt;</p>"},
		{"a\u202Eb", "<p>a⟦RLO⟧b</p>"},
	} {
		assert.Equal(t, c.want, strings.TrimSpace(note.HTML(c.text, links)), c.text)
	}
}

// Nothing that acts gets through, however it is written.
func TestHTMLShowsAndDoesNothing(t *testing.T) {
	for _, hostile := range []string{
		"<script>alert(1)</script>", "<img src=x onerror=alert(1)>", "[a](javascript:alert(1))", "[a](data:text/html,<script>)", "<iframe src=//x></iframe>",
		"<a href='javascript:x'>", "![a](javascript:x)", "<style>*{}</style>", "[a](JaVaScRiPt:x)", "[a](&#106;avascript:x)", "<svg onload=x>", "![a](x\"onerror=\"y)",
		"[a](vbscript:x)", "<form action=//x><input name=a>", "[x]: javascript:alert(1)\n\n[x]",
	} {
		out := strings.ToLower(note.HTML(hostile, links))
		for _, bad := range []string{"<script", "<img src=\"x", "href=\"javascript", "href=\"data", "<iframe", "<style", "<svg", "src=\"javascript", "vbscript", "<form"} {
			assert.NotContains(t, out, bad, hostile)
		}
	}
}

func TestCheck(t *testing.T) {
	assert.NoError(t, note.Check("x"))
	for _, bad := range []string{"", " \n", strings.Repeat("x", note.MaxText+1), "\xff", "a\x00"} {
		assert.Error(t, note.Check(bad))
	}
}

func TestLine(t *testing.T) {
	assert.Equal(t, "A heading", note.Line("# A heading\n\ntext", 80))
	assert.Equal(t, "bold #tag of @kip see #1", note.Line("**bold** #tag of @kip\nsee #1\n\nmore", 80))
	assert.Equal(t, `a #b & \c`, note.Line("a \\#b &amp; `\\c`", 80))
	assert.Equal(t, "xx…", note.Line("xxxx", 3))
	assert.Equal(t, "```", note.Line("```\ncode\n```", 80))
}

func FuzzNote(f *testing.F) {
	f.Add("a #b @c `d` [e](f) ![g](attachment:7) [h](attachment:8)")
	f.Fuzz(func(t *testing.T, text string) {
		out := note.HTML(text, links)
		if strings.Contains(strings.ToLower(out), "<script") || strings.Contains(out, `="javascript:`) {
			t.Fatalf("%q gives %q", text, out)
		}
		note.Read(text)
		note.Line(text, 40)
	})
}
