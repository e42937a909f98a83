package summary

import (
	"bufio"
	"fmt"
	"io"
	"path"
	"sort"
	"strings"
)

// WriteMarkdown writes the summaries of all folders and files as one Markdown
// document, by folder. title names the repository, commit is what the
// summaries are true for. Names that could be taken for markup are escaped.
func (w *Whole) WriteMarkdown(out io.Writer, title, commit string) error {
	b := bufio.NewWriter(out)
	fmt.Fprintf(b, "# %s\n\nSummaries of all folders and files at commit `%s`. Each sentence names the lines that bear it; *names*, *read* and *history*\nsay how deep it looked.\n", escapeMarkdown(title), commit)
	folders := make([]string, 0, len(w.folders))
	for d := range w.folders {
		folders = append(folders, d)
	}
	sort.Strings(folders)
	for _, d := range folders {
		heading := d + "/"
		if d == "" {
			heading = "The repository"
		}
		fmt.Fprintf(b, "\n## %s\n\n", escapeMarkdown(heading))
		sentences, err := w.OfFolder(d)
		if err != nil {
			return err
		}
		writeSentences(b, sentences)
		for _, i := range w.folders[d] {
			if dir := path.Dir(w.Files[i].Path); dir != d && (d != "" || dir != ".") {
				continue
			}
			sentences, err := w.OfFile(i)
			if err != nil {
				return err
			}
			fmt.Fprintf(b, "\n### %s\n\n", escapeMarkdown(w.Files[i].Path))
			if len(sentences) == 0 {
				fmt.Fprintf(b, "Nothing is known of it: %s.\n", w.unknown(i))
				continue
			}
			writeSentences(b, sentences)
		}
	}
	return b.Flush()
}

// unknown says why a file has no summary.
func (w *Whole) unknown(file int) string {
	if r := w.Files[file].Reason; r != "" {
		return "it was not read (" + r + ")"
	}
	return "no fact speaks for it"
}

func writeSentences(b *bufio.Writer, sentences []Sentence) {
	for _, s := range sentences {
		var cites []string
		for _, c := range s.Cites {
			if c.Line > 0 {
				cites = append(cites, fmt.Sprintf("%s:%d", c.Path, c.Line))
			} else {
				cites = append(cites, c.Path)
			}
		}
		fmt.Fprintf(b, "- %s *(%s; %s)*\n", escapeText(s.Text), s.Depth, escapeMarkdown(strings.Join(cites, ", ")))
	}
}

var markdown = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "<", `\<`, ">", `\>`, "[", `\[`, "]", `\]`, "#", `\#`, "|", `\|`, "\n", " ", "\r", " ")

// escapeMarkdown shows a text as it is.
func escapeMarkdown(s string) string { return markdown.Replace(s) }

// escapeText shows a sentence as it is, but for its code spans.
func escapeText(s string) string {
	parts := strings.Split(s, "`")
	for i := range parts {
		if i%2 == 0 || i == len(parts)-1 {
			parts[i] = escapeMarkdown(parts[i])
		} else {
			parts[i] = "`" + strings.NewReplacer("\n", " ", "\r", " ").Replace(parts[i]) + "`"
		}
	}
	return strings.Join(parts, "")
}
