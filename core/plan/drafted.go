package plan

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
)

// Goal is what a plan was drafted for. Which fields count depends on Kind; see
// the package draft.
type Goal struct {
	Kind      string `json:"kind" enum:"whole,folder,symbol,question,since"`
	Path      string `json:"path,omitempty"`
	Line      int    `json:"line,omitempty"`
	Name      string `json:"name,omitempty"`
	Words     string `json:"words,omitempty"`
	Base      string `json:"base,omitempty"` // full id of a commit
	Direction string `json:"direction" enum:"outside-in,inside-out"`
}

// Print is a digest of what a passage says, but for where it stands, what it needs
// and the commit it is read at.
func (p *Passage) Print() string {
	said := *p
	said.ID, said.Chapter, said.Order, said.Needs, said.Why, said.Drafted, said.Removed, said.Target.Commit = "", "", "", nil, "", "", false, ""
	raw, err := json.Marshal(said)
	if err != nil {
		panic(err) // plain structures of strings and numbers
	}
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:8])
}

// ByHand tells whether a person made a passage, changed it, or decided that it
// stays: drafts leave it as it is.
func (p *Passage) ByHand() bool { return p.Drafted == "" || p.Drafted != p.Print() }

// OutByDraft is what Drafted holds of a passage that a draft took out: a later one
// may propose it again, other than what a person took out.
const OutByDraft = "out"

// checkGoal tells what is wrong with a goal by itself.
func checkGoal(g *Goal) error {
	if g == nil {
		return nil
	}
	if err := checkPath(g.Path); err != nil {
		return err
	}
	return allFit(limited{g.Kind, MaxTitle}, limited{g.Name, maxPath}, limited{g.Words, MaxTitle}, limited{g.Base, MaxTitle}, limited{g.Direction, MaxTitle})
}
