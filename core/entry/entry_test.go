package entry_test

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/entry"
	"juxtagram/core/lang/all"
)

var update = flag.Bool("update", false, "write the expected results anew")

// found lists what all detectors find in a file.
func found(t *testing.T, file string) string {
	t.Helper()
	content, err := os.ReadFile(file)
	require.NoError(t, err)
	l := all.OfPath(file)
	require.NotNil(t, l, file)
	r, err := l.Read(context.Background(), content)
	require.NoError(t, err)
	var b strings.Builder
	for _, s := range entry.Find(&entry.Source{Language: l.Name, Reading: r}) {
		fmt.Fprintf(&b, "%s\t%s\t%d\t%s\n", s.Kind, s.Name, s.Line, s.Evidence)
	}
	return b.String()
}

func TestEveryDetectorFindsWhatItsFolderHolds(t *testing.T) {
	for _, d := range entry.Detectors {
		t.Run(d.Name, func(t *testing.T) {
			assert.NotEmpty(t, d.Doc)
			inputs, _ := filepath.Glob(filepath.Join("testdata", d.Name, "input.*"))
			nones, _ := filepath.Glob(filepath.Join("testdata", d.Name, "none.*"))
			require.Len(t, inputs, 1)
			require.Len(t, nones, 1, "a text that looks alike")
			want := filepath.Join("testdata", d.Name, "want.txt")
			got := found(t, inputs[0])
			if *update {
				require.NoError(t, os.WriteFile(want, []byte(got), 0o644))
			}
			expected, err := os.ReadFile(want)
			require.NoError(t, err)
			assert.Equal(t, string(expected), got)
			assert.NotEmpty(t, got)
			assert.Empty(t, found(t, nones[0]))
		})
	}
	folders, err := os.ReadDir("testdata")
	require.NoError(t, err)
	assert.Len(t, folders, len(entry.Detectors)+1, "a folder for each, and the README")
}
