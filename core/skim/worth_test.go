package skim_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/skim"
)

const gauge = `// Copyright the marsh. Licensed as you like.
// Redistribution is welcome.
// No warranty.

// Package gauge reads the water, in
// millimetres above the datum of
// its station.
package gauge

import (
	"fmt"
	"sort"
	"time"
)

// Gauge is one of them, with its
// readings.
type Gauge struct {
	datum    int
	readings []int
	seen     time.Time
}

// Datum hands out the datum.
func (g *Gauge) Datum() int {
	return g.datum
}

// String is for people.
func (g *Gauge) String() string {
	return fmt.Sprintf("gauge at %d", g.datum)
}

// Level is the median of the last nine
// readings; a swell knocks the float.
func (g *Gauge) Level() (int, error) {
	if len(g.readings) < 9 {
		return 0, fmt.Errorf("too few")
	}
	last := append([]int{}, g.readings[len(g.readings)-9:]...)
	sort.Ints(last)
	for i, r := range last {
		if r < 0 {
			last[i] = 0
		}
	}

	return last[4] - g.datum, nil
}

// Reset forgets.
func (g *Gauge) Reset() {
	g.readings = nil
	g.seen = time.Time{}
}
`

func worthOf(s *skim.Skim, d *facts.Details) map[string]float64 {
	out := map[string]float64{}
	for _, r := range s.Regions {
		if r.Symbol >= 0 {
			out[d.Outline[r.Symbol].Name] = r.Worth
		} else {
			out[string(r.Kind)] = max(out[string(r.Kind)], r.Worth)
		}
	}
	return out
}

func TestWorthTellsWhatPeoplePassOver(t *testing.T) {
	in := input(t, "gauge.go", gauge)
	w := worthOf(skim.Of(in), in.Details)
	for _, less := range []string{"Datum", "String", "Reset", "licence", "imports"} {
		assert.Less(t, w[less], w["Level"], less)
	}
	assert.Less(t, w["licence"], w["imports"])
	assert.Greater(t, w["comment"], w["imports"], "what the file says it is")
}

func TestEvidenceRaisesWorth(t *testing.T) {
	plain := input(t, "gauge.go", gauge)
	before := worthOf(skim.Of(plain), plain.Details)["Reset"]
	line := 1 + strings.Count(gauge[:strings.Index(gauge, "func (g *Gauge) Reset")], "\n")
	for name, give := range map[string]func(*skim.Input){
		"tagged": func(in *skim.Input) { in.Tagged = []int{line + 1} },
		"starts": func(in *skim.Input) { in.Starts = []int{line} },
		"marked": func(in *skim.Input) { in.Marked = []skim.Lines{{Start: line + 1, End: line + 2}} },
		"recent": func(in *skim.Input) {
			in.Recent = func(n int) float64 {
				if n == line+1 {
					return 1
				}
				return 0
			}
		},
		"reached": func(in *skim.Input) {
			in.Reach = make([]int, len(in.Details.Outline))
			for i := range in.Details.Outline {
				if in.Details.Outline[i].Name == "Reset" {
					in.Reach[i] = 20
				}
			}
		},
		"rare": func(in *skim.Input) {
			in.Rare = func(word string) float64 {
				if word == "reset" || word == "seen" || word == "readings" || word == "time" {
					return 1
				}
				return 0
			}
		},
	} {
		t.Run(name, func(t *testing.T) {
			in := input(t, "gauge.go", gauge)
			give(in)
			s := skim.Of(in)
			assert.Greater(t, worthOf(s, in.Details)["Reset"], before)
			holds(t, s)
		})
	}
}

func TestWordsAreRareWhereFewFilesHoldThem(t *testing.T) {
	known := skim.NewStatistics()
	assert.InDelta(t, 0.5, known.Rare("gauge"), 1e-9, "nothing is known")
	add := func(path, text string) {
		f := facts.Of(t.Context(), nil, nil)
		in := input(t, path, text)
		f.Details = in.Details
		f.Pack()
		m, err := facts.UnpackMatter(f.Linked.Matter)
		require.NoError(t, err)
		known.Add(&m)
	}
	for range 7 {
		add("a.go", "package a\n\nfunc readLevel() {}\n")
	}
	add("b.go", "package b\n\nfunc readSwell() {}\n")
	assert.InDelta(t, 0, known.Rare("read"), 1e-9, "in every file")
	assert.InDelta(t, 1, known.Rare("swell"), 1e-9, "in one")
	assert.InDelta(t, 1, known.Rare("never"), 1e-9, "in none")
	assert.Less(t, known.Rare("level"), 0.2)
}

// Languages without a grammar are cut by indentation, and by the rules of their
// outline where they have one.
func TestLexedAndPlainTextsAreCutToo(t *testing.T) {
	for path, text := range map[string]string{
		"a.pl":   "use strict;\n\nsub level {\n    my ($raw) = @_;\n    if ($raw < 0) {\n        warn 'below';\n        return 0;\n    }\n    my $x = $raw - 4;\n    my $y = $x * 2;\n    return $y;\n}\n\nsub other {\n    return level(3);\n}\n",
		"a.hs":   "module Tide where\n\nlevel :: Int -> Int\nlevel raw =\n  let datum = 4\n      swell = 2\n  in case raw of\n       0 -> 0\n       1 -> datum\n       2 -> swell\n       n -> n - datum\n\nother = level 3\n",
		"a.ex":   "defmodule Tide do\n  def level(raw) do\n    x = raw - 4\n    y = x * 2\n    z = y + 1\n    if z > 3 do\n      z\n    else\n      0\n    end\n  end\n\n  def other, do: level(3)\nend\n",
		"a.text": "The marsh\n\n  first line\n  second line\n  third line\n  fourth line\n  fifth line\n  sixth line\n  seventh line\n\nThe end\n",
		"a.yaml": "stations:\n  - name: Saltern\n    datum: 4\n    since: 2024\n    radio: on\n    level: 3\n    swell: 2\n  - name: Outer Perch\n    datum: 7\n    since: 2025\n    radio: on\n    level: 3\n    swell: 2\n",
	} {
		t.Run(path, func(t *testing.T) {
			s := skim.Of(input(t, path, text))
			holds(t, s)
			assert.NotEmpty(t, s.Order, "something folds")
			assert.Less(t, s.Least(), s.Total)
		})
	}
}

func TestDeeplyIndentedAndVeryLongTextsAreCutInTime(t *testing.T) {
	var steps, flat strings.Builder
	for i := range 3000 {
		steps.WriteString(strings.Repeat(" ", i) + "x\n")
		flat.WriteString("x = 1\n")
	}
	holds(t, skim.Of(&skim.Input{Content: steps.String()}))
	holds(t, skim.Of(&skim.Input{Content: flat.String()}))
	holds(t, skim.Of(&skim.Input{Content: strings.Repeat("{", 50_000) + "\n" + strings.Repeat("}", 50_000)}))
}

func TestAPrintedSkimNumbersItsLines(t *testing.T) {
	in := input(t, "gauge.go", gauge)
	var out strings.Builder
	require.NoError(t, skim.Of(in).Print(&out, in.Content, 20))
	lines := strings.Split(strings.TrimSuffix(out.String(), "\n"), "\n")
	assert.LessOrEqual(t, len(lines), 20)
	assert.Contains(t, out.String(), "func (g *Gauge) Level() (int, error) {")
	assert.Contains(t, out.String(), " + ")
	assert.Contains(t, out.String(), "3 imports: fmt, sort, time (6 lines)")
}
