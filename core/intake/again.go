package intake

import (
	"context"
	"maps"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"time"

	"juxtagram/core/repo"
)

// News is a branch or tag that a fetch found otherwise than before.
type News struct {
	Name string `json:"name"`
	Kind string `json:"kind" enum:"branch,tag"`
	What string `json:"what" enum:"new,moved,rewritten,gone"` // rewritten: it no longer holds the commit it led to
	From string `json:"from"`                                 // full id; "": new
	To   string `json:"to"`                                   // full id; "": gone
}

// Again brings a mirror that was taken in from a folder or an address up to
// date, and tells what is otherwise. Commits that were there stay readable,
// wherever the branches lead now. The mirror stays as it is when this fails.
func Again(ctx context.Context, dir, source string, o Options) ([]News, error) {
	g := repo.At(dir)
	before, err := refsOf(ctx, g)
	if err != nil {
		return nil, err
	}
	if isAddress(source) {
		err = fetchAgain(ctx, g, source, o)
	} else {
		err = copyAgain(ctx, g, source, o)
	}
	if err != nil {
		return nil, err
	}
	if err := finish(ctx, g, &o); err != nil {
		return nil, err
	}
	after, err := refsOf(ctx, g)
	if err != nil {
		return nil, err
	}
	return compareRefs(ctx, g, before, after)
}

func refsOf(ctx context.Context, g *repo.Git) (map[string]repo.Ref, error) {
	refs, err := g.Refs(ctx)
	out := make(map[string]repo.Ref, len(refs))
	for _, r := range refs {
		out[r.Full] = r
	}
	return out, err
}

func compareRefs(ctx context.Context, g *repo.Git, before, after map[string]repo.Ref) ([]News, error) {
	news := []News{}
	for _, name := range slices.Sorted(maps.Keys(after)) {
		r, was := after[name], before[name]
		n := News{Name: r.Name, Kind: r.Kind, From: was.Commit, To: r.Commit}
		switch {
		case was.Commit == r.Commit:
			continue
		case was.Commit == "":
			n.What = "new"
		default:
			n.What = "moved"
			if _, err := g.Run(ctx, "merge-base", "--is-ancestor", was.Commit, r.Commit); err != nil {
				if ctx.Err() != nil {
					return nil, ctx.Err()
				}
				n.What = "rewritten"
			}
		}
		news = append(news, n)
	}
	for _, name := range slices.Sorted(maps.Keys(before)) {
		if _, still := after[name]; !still {
			news = append(news, News{Name: before[name].Name, Kind: before[name].Kind, What: "gone", From: before[name].Commit})
		}
	}
	return news, nil
}

// fetchAgain fetches from an address; an address on this machine is a folder.
func fetchAgain(ctx context.Context, g *repo.Git, address string, o Options) error {
	protocol, err := CheckAddress(address, o.Protocols)
	if err != nil {
		return err
	}
	if protocol == "file" {
		u, err := url.Parse(address)
		if err != nil || (u.Host != "" && u.Host != "localhost") {
			return refuse("not a file address of this machine")
		}
		return copyAgain(ctx, g, u.Path, o)
	}
	if o.FetchIn == 0 {
		o.FetchIn = time.Hour
	}
	if o.AnswerIn == 0 {
		o.AnswerIn = 30 * time.Second
	}
	t, env, done, err := transport(ctx, g.Dir(), address, protocol, &o)
	if err != nil {
		return err
	}
	defer done()
	o.say("fetching")
	if _, err := ask(ctx, g, o.FetchIn, t, env, append(slices.Clone(fetchArgs), t.address, "+refs/heads/*:refs/heads/*", "+refs/tags/*:refs/tags/*")...); err != nil {
		return explain(ctx, err, o.FetchIn)
	}
	return nil
}

// fetchArgs begin a fetch of all branches and tags, and of nothing else.
var fetchArgs = []string{"fetch", "--quiet", "--prune", "--no-tags", "--no-recurse-submodules", "--no-write-fetch-head", "--no-auto-maintenance", "--end-of-options"}

// copyAgain copies what a folder has and the mirror has not, and moves the
// mirror's refs to where the folder's are. What is not committed is never read.
func copyAgain(ctx context.Context, g *repo.Git, source string, o Options) error {
	gitDir, common, err := gitFolders(source, o.Roots)
	if err != nil {
		return err
	}
	defer gitDir.Close()
	defer common.Close()
	if err := checkForeign(common); err != nil {
		return err
	}
	o.say("reading refs")
	refs, err := foreignRefs(common)
	if err != nil {
		return err
	}
	head, err := readHead(gitDir)
	if err != nil {
		return err
	}
	if err := copyObjects(ctx, common, filepath.Join(g.Dir(), "objects"), &o); err != nil {
		return err
	}
	if b, err := common.read("shallow"); err == nil && shallowFile.Match(b) {
		if err := os.WriteFile(filepath.Join(g.Dir(), "shallow"), b, 0o644); err != nil {
			return err
		}
	} else {
		_ = os.Remove(filepath.Join(g.Dir(), "shallow")) // it is whole by now
	}
	lost, err := setRefs(ctx, g, refs, head)
	if err != nil {
		return err
	}
	if len(refs) > 0 && lost == len(refs) {
		return refuse("the repository is damaged: none of its %d branches and tags leads to an object that is there", lost)
	}
	return nil
}
