package reader

import (
	"context"
	"fmt"
	"os"
	"runtime"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/lang/all"
	"juxtagram/core/sandbox"
)

var ctx = context.Background()

// The readers of this test do what grammars might.
func TestMain(m *testing.M) {
	sandbox.Main(KindOf(func(ctx context.Context, language string, content []byte) *facts.Facts {
		switch text := string(content); {
		case strings.HasPrefix(text, "crash"):
			_ = syscall.Kill(os.Getpid(), syscall.SIGSEGV)
			select {}
		case text == "hang":
			for {
			}
		case text == "eat":
			var all [][]byte
			for {
				all = append(all, make([]byte, 64<<20))
				for i := range all[len(all)-1] {
					all[len(all)-1][i] = 1
				}
			}
		}
		return Read(ctx, language, content)
	}))
	os.Exit(m.Run())
}

func TestFactsArriveWhole(t *testing.T) {
	p := New(2)
	defer p.Close()
	text := []byte("// Package a reads.\npackage a\n\nimport \"fmt\"\n\n// F says so.\nfunc F() { fmt.Println(\"x\") } // TODO: mend\n")
	got := p.Facts(ctx, "Go", text)
	want := facts.Of(ctx, all.ByName("Go"), text)
	details, err := facts.Unpack(got.Packed)
	require.NoError(t, err)
	assert.Equal(t, want.Details, details)
	want.Pack()
	assert.Equal(t, &want, got)
	script := p.Facts(ctx, "", []byte("#!/usr/bin/env python3\nx = 1\n"))
	assert.Equal(t, lang.Parsed, script.Depth, "the first line names the language: %s", script.Reason)
}

func TestWhatEndsAReaderCostsOneBlob(t *testing.T) {
	p := New(2)
	defer p.Close()
	var wg sync.WaitGroup
	for i, c := range []struct{ text, reason string }{
		{"crash", "ended the process"}, {"crash again", "ended the process"}, {"package a\n", ""}, {"package b\n", ""}, {"eat", "ended the process"}, {"package c\n", ""},
	} {
		wg.Go(func() {
			got := p.Facts(ctx, "Go", []byte(c.text))
			if c.reason == "" {
				assert.Equal(t, lang.Parsed, got.Depth, i)
				return
			}
			assert.Equal(t, lang.Listed, got.Depth, c.text)
			assert.False(t, got.Passing, "the blob would do it again")
			if c.text != "eat" || !strings.Contains(got.Reason, "longer") { // a slow machine fills memory slowly
				assert.Contains(t, got.Reason, c.reason)
			}
		})
	}
	wg.Wait()
	assert.Equal(t, lang.Parsed, p.Facts(ctx, "Go", []byte("package d\n")).Depth, "the pool lives on")
	p.Rest()
	assert.Equal(t, lang.Parsed, p.Facts(ctx, "Go", []byte("package e\n")).Depth, "and after a rest")
}

// Small blobs are read in one exchange; what ends a reader in the midst of it costs the
// others nothing, and each answer is that of its own blob.
func TestManyBlobsAreAnsweredInTheirOrder(t *testing.T) {
	p := newPool(1, 2*time.Second)
	defer p.Close()
	var blobs []Blob
	want := []string{}
	for i := range 60 {
		text, name := fmt.Sprintf("package a\n\nfunc F%d() {}\n", i), fmt.Sprintf("F%d", i)
		switch {
		case i == 0 || i == 17 || i == 18:
			text, name = "crash", ""
		case i == 40:
			text += strings.Repeat("// a long comment\n", 20_000) // more than goes together
		}
		blobs, want = append(blobs, Blob{"Go", []byte(text)}), append(want, name)
	}
	assert.Less(t, Together(blobs), len(blobs))
	assert.Equal(t, 1, Together(blobs[40:]), "a large one goes alone")
	got := p.FactsOf(ctx, blobs)
	require.Len(t, got, len(blobs))
	for i, f := range got {
		if want[i] == "" {
			assert.Contains(t, f.Reason, "ended the process", i)
			continue
		}
		d, err := facts.Unpack(f.Packed)
		require.NoError(t, err)
		require.Len(t, d.Outline, 1, i)
		assert.Equal(t, want[i], d.Outline[0].Name)
	}
	done, cancel := context.WithCancel(ctx)
	cancel()
	for _, f := range p.FactsOf(done, blobs[1:4]) {
		assert.True(t, f.Passing)
	}
	assert.Empty(t, p.FactsOf(ctx, nil))
}

func TestAHangIsGivenUp(t *testing.T) {
	p := newPool(1, 300*time.Millisecond)
	defer p.Close()
	assert.Equal(t, "reading took longer than 300ms", p.Facts(ctx, "Go", []byte("hang")).Reason)
}

func TestCancellingReturnsAtOnce(t *testing.T) {
	p := newPool(1, time.Minute)
	defer p.Close()
	ctx, cancel := context.WithCancel(ctx)
	done := make(chan *facts.Facts)
	go func() { done <- p.Facts(ctx, "Go", []byte("hang")) }()
	cancel()
	got := <-done
	assert.Contains(t, got.Reason, "canceled")
	assert.True(t, got.Passing, "that says nothing of the blob")
}

// A reader that was ended while it answered the last of its blobs is not asked again.
func TestAReaderThatWasEndedIsNotAskedAgain(t *testing.T) {
	p := newPool(1, time.Minute)
	defer p.Close()
	for i := range 60 {
		some, cancel := context.WithCancel(ctx)
		done := make(chan []*facts.Facts)
		go func() { done <- p.FactsOf(some, []Blob{{"Go", []byte("package a\n")}, {"Go", []byte("package b\n")}}) }()
		for range i * 2000 { // earlier and later
			runtime.KeepAlive(some)
		}
		cancel()
		for _, f := range <-done {
			assert.True(t, f.Passing || f.Depth == lang.Parsed, f.Reason)
		}
		assert.Equal(t, lang.Parsed, p.Facts(ctx, "Go", []byte("package c\n")).Depth, i)
	}
}

func TestHostileLengthsAreRefused(t *testing.T) {
	err := serve(strings.NewReader("\xff\xff\xff\xff"), nil, Read)
	assert.ErrorContains(t, err, "a part of 4294967295 bytes")
	assert.Error(t, serve(strings.NewReader("\x02\x00\x00\x00G"), nil, Read), "cut short")
	assert.NoError(t, serve(strings.NewReader(""), nil, Read))
}
