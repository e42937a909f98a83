package summary

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestDocumentationThatSaysNothing(t *testing.T) {
	for doc, want := range map[string]bool{
		"ResponseWriter ...": false, "Gauge.": false, "": false, "Gauge: of the float": true, "Reads a level.": true, "the gauge": false, "Level of the gauge": true,
	} {
		assert.Equal(t, want, says(doc, map[bool]string{true: "ResponseWriter", false: "Gauge"}[doc == "ResponseWriter ..."]), doc)
	}
	assert.True(t, opensTagged("TODO: mend this"))
	assert.True(t, opensTagged("NOTE(tam): so"))
	assert.False(t, opensTagged("Notes are kept here"))
}

func TestTheMostTellingComeFirst(t *testing.T) {
	cite := []Cite{{"a", 1}}
	var all []Sentence
	for i := range 9 {
		all = append(all, Sentence{Text: string(rune('a' + i)), Cites: cite, weight: float64(i)})
	}
	all = append(all, Sentence{Text: "no evidence", weight: 99}, Sentence{Cites: cite, weight: 98})
	got := best(all)
	assert.Len(t, got, maxSentences)
	assert.Equal(t, "i", got[0].Text)
	assert.Equal(t, "d", got[5].Text)
}

func TestWords(t *testing.T) {
	assert.Equal(t, "a, b and c", list([]string{"a", "b", "c"}))
	assert.Equal(t, "a, b and 3 more", some([]string{"a", "b", "c", "d", "e"}, 2))
	for n, want := range map[int]string{0: "0 entries", 1: "1 entry", 2: "2 entries"} {
		assert.Equal(t, want, count(n, "entry"))
	}
	assert.Equal(t, "1,234,567 lines", count(1234567, "line"))
	assert.Equal(t, "2 classes", count(2, "class"))
	assert.Equal(t, "`it's`", code("it`s"))
}

func TestTestsAreNamedForWhatTheyShow(t *testing.T) {
	for p, want := range map[string]string{
		"a/frame_test.go": "frame", "test_fit.py": "fit", "curve.test.ts": "curve", "FrameTest.java": "frame", "spec/gauge_spec.rb": "gauge", "tests/it_reads.rs": "reads", "plain.c": "plain",
	} {
		assert.Equal(t, want, testedStem(p), p)
	}
}

func TestMarkupIsShownAsItIs(t *testing.T) {
	assert.Equal(t, `\<b\>\[x\](y)\*`, escapeMarkdown("<b>[x](y)*"))
	assert.Equal(t, "a `x_y` b\\_c", escapeText("a `x_y` b_c"))
	assert.Equal(t, "un\\`closed", escapeMarkdown("un`closed"))
}
