package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// The owner lets a reader take in, and opens a folder; the reader does so. Until then the
// page says whom to ask.
func TestTheOwnerLetsSomebodyTakeIn(t *testing.T) {
	ona, s := deskOn(t)
	rae := joined(t, ona, s, "Rae", "reader")
	steps(t, rae.Open("/"), rae.See("The shelf"), rae.See("m.git"), rae.SeeNot("Take in a repository"),
		rae.Open("/take-in"), rae.See("You may not take in repositories here"), rae.Gone("form"))
	steps(t, ona.Open("/people"), ona.See("People of this installation"), ona.See("Rae@example.test"),
		ona.ClickAt(`[aria-label="Rae may take in repositories"]`), ona.Visible(`[aria-label^="Rae may take in folders below"]`),
		ona.ClickAt(`[aria-label^="Rae may take in folders below"]`), ona.Visible(`[aria-label^="Rae may take in folders below"]:checked`))
	steps(t, rae.Open("/"), rae.Click("Take in a repository"), rae.Click("A folder of the server"), rae.See("Below "),
		rae.Fill("folder", filepath.Join(begun.roots, "m.git")), rae.Click("Take it in"), rae.See("Choose what everyone reads"))
}

// A repository whose copy is gone from the server says so, and is read as before once it
// is taken in again.
func TestACopyThatIsMissingIsMadeAgain(t *testing.T) {
	database, data := copied(t)
	require.NoError(t, os.RemoveAll(filepath.Join(data, "mirrors", "1.git")))
	s := serve(t, database, data, "127.0.0.1:0", "--roots", begun.roots)
	ona := page(t, s)
	steps(t, ona.Cookie(begun.session.Name, begun.session.Value), ona.Open("/r/1"), ona.See("cannot be read now"), ona.See("copy of this repository on the server is missing"),
		ona.Click("Take it in again"), ona.See("In short"), ona.Open("/r/1/read?path=firmware/frame.c"), ona.See("void frame_pack"))
}
