package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/spf13/cobra"

	"juxtagram/core/attach"
	"juxtagram/core/history"
	"juxtagram/core/note"
	"juxtagram/core/place"
	"juxtagram/core/repo"
	"juxtagram/demo"
	"juxtagram/store"
)

func demoCommand() *cobra.Command {
	var c config
	var only string
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve with the made-up repository Marshgauge, people and a plan",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			if only != "" {
				return demo.Build(cmd.Context(), only)
			}
			if err := fromEnvironment(cmd.Flags()); err != nil {
				return err
			}
			source, err := demoSource(cmd.Context(), &c)
			if err != nil {
				return err
			}
			return withHouse(cmd.Context(), c, func(ctx context.Context, h *house) error {
				if err := h.loadDemo(ctx, source); err != nil {
					return fmt.Errorf("loading the demo: %w", err)
				}
				return h.serve(ctx, tellDemo)
			})
		},
	}
	c.flags(cmd.Flags())
	cmd.Flags().StringVar(&only, "only-repository", "", "write the demo's repository to this folder, and do nothing else")
	return cmd
}

func tellDemo(address string) {
	fmt.Printf("\nJuxtagram serves the demo at %s\n\nSign in as\n", address)
	for _, p := range demo.People {
		fmt.Printf("  %-24s %s\n", p.Email, p.Role)
	}
	fmt.Printf("with the password %s\n\nCtrl-C stops it; the data stays.\n", demo.Password)
}

// demoSource writes the demo's repository where it is not there yet, and lets
// the server read it.
func demoSource(ctx context.Context, c *config) (string, error) {
	data, err := filepath.Abs(c.data)
	if err != nil {
		return "", err
	}
	dir := filepath.Join(data, "demo")
	c.roots = append(c.roots, dir)
	source := filepath.Join(dir, "marshgauge.git")
	if _, err := repo.At(source).Resolve(ctx, "v1.4.0"); err == nil {
		return source, nil
	}
	if err := os.RemoveAll(source); err != nil {
		return "", err
	}
	return source, demo.Build(ctx, source)
}

// loadDemo makes people, the repository with its survey, and the plan, where
// there is no account yet.
func (h *house) loadDemo(ctx context.Context, source string) error {
	if has, err := h.store.HasPeople(ctx); err != nil || has {
		return err
	}
	people := make([]*store.Person, len(demo.People))
	for i, p := range demo.People {
		hash, err := argon2id.CreateHash(demo.Password, argon2id.DefaultParams)
		if err != nil {
			return err
		}
		if people[i], err = h.store.AddPerson(ctx, store.Person{Name: p.Name, Email: p.Email, PasswordHash: hash, Owner: p.Owner, CreatedAt: time.Now()}, false); err != nil {
			return err
		}
	}
	r, err := h.jobs.TakeIn(ctx, store.Repository{Name: "marshgauge", SourceKind: "folder", Source: source,
		HalfLife: history.DefaultHalfLife, CreatedBy: &people[0].ID})
	if err != nil {
		return err
	}
	for i, p := range demo.People {
		if err := h.store.SetRole(ctx, r.ID, people[i].ID, store.Role(p.Role)); err != nil {
			return err
		}
	}
	if r, err = h.await(ctx, r.ID); err != nil {
		return err
	}
	commit, err := h.jobs.Git(r.ID).Resolve(ctx, "v1.4.0")
	if err != nil {
		return err
	}
	if _, err := h.jobs.Pin(ctx, r, commit, "v1.4.0", false); err != nil {
		return err
	}
	if err := h.demoNotes(ctx, r, people); err != nil {
		return err
	}
	return h.demoPlans(ctx, r, people)
}

// await waits for the take-in to end.
func (h *house) await(ctx context.Context, id int64) (*store.Repository, error) {
	for {
		r, err := h.store.Repository(ctx, id)
		if err != nil {
			return nil, err
		}
		switch r.State {
		case store.NeedsPin:
			return r, nil
		case store.TakeFailed:
			return nil, errors.New(r.Problem)
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
}

// demoPlans publishes the demo's plans, and has somebody begin the first.
func (h *house) demoPlans(ctx context.Context, r *store.Repository, people []*store.Person) error {
	plans, err := demo.Plans(r.Pin, func(tag string) (string, error) { return h.jobs.Git(r.ID).Resolve(ctx, tag) })
	if err != nil {
		return err
	}
	for i, x := range plans {
		p, err := h.store.AddPlan(ctx, r.ID, x.State, false, people[0].ID)
		if err != nil {
			return err
		}
		if _, err := h.store.PublishPlan(ctx, p.ID, people[0].ID, p.Seq, x.Commit, x.Note); err != nil {
			return err
		}
		if i > 0 {
			continue
		}
		for _, id := range []string{"demo-1-main", "demo-1-tick", "demo-1-pack"} {
			if err := h.store.SetDone(ctx, p.ID, people[1].ID, id, true); err != nil {
				return err
			}
		}
		if err := h.store.SetReading(ctx, p.ID, people[1].ID, 1, true, nil); err != nil {
			return err
		}
		if err := h.store.SetPlace(ctx, p.ID, people[1].ID, "demo-1-retry", 1, nil); err != nil {
			return err
		}
	}
	return nil
}

// demoNotes writes the demo's threads.
func (h *house) demoNotes(ctx context.Context, r *store.Repository, people []*store.Person) error {
	git := h.jobs.Git(r.ID)
	for _, n := range demo.Notes {
		commit, err := git.Resolve(ctx, n.At)
		if err != nil {
			return err
		}
		t := &store.NoteTarget{Kind: store.OnFile, Commit: commit, Path: n.Path}
		switch {
		case n.Folder && n.Path == "":
			t.Kind = store.OnRepository
		case n.Folder:
			t.Kind = store.OnFolder
		case n.From != "":
			content, err := git.Run(ctx, "cat-file", "blob", commit+":"+n.Path)
			if err != nil {
				return err
			}
			text := place.NewText(n.Path, string(content))
			t.Kind = store.OnLines
			for i, l := range text.Lines {
				if t.Start == 0 && strings.Contains(l, n.From) {
					t.Start = i + 1
				}
				if t.Start > 0 && t.End == 0 && strings.Contains(l, n.To) {
					t.End = i + 1
				}
			}
			if t.End == 0 {
				return fmt.Errorf("%s has no line with %q at %s", n.Path, n.From, n.At)
			}
			t.Quote = place.QuoteOf(text, t.Start, t.End)
		}
		a := &store.Annotation{Repository: r.ID, Author: people[n.By].ID, AuthorName: people[n.By].Name, Kind: n.Kind, Body: n.Text, Tags: note.Read(n.Text).Tags, Target: t}
		if n.Asked >= 0 {
			a.Asked = people[n.Asked].ID
		}
		if n.Sketch {
			f, err := h.demoSketch(ctx, r, people[n.By])
			if err != nil {
				return err
			}
			a.Body += "\n\n" + note.Attach(f.UID, f.Name, f.Picture)
		}
		if err := h.store.AddAnnotation(ctx, a); err != nil {
			return err
		}
		if err := h.store.UseAttachments(ctx, r.ID, a.Author, store.UsesOf(a)); err != nil {
			return err
		}
		if n.FollowUp != "" {
			c, err := git.Resolve(ctx, n.FollowUp)
			if err != nil {
				return err
			}
			if err := h.store.Link(ctx, a.ID, a.Author, c, true); err != nil {
				return err
			}
		}
		for _, x := range n.Replies {
			reply := &store.Annotation{Repository: r.ID, Thread: a.ID, Author: people[x.By].ID, AuthorName: people[x.By].Name, Body: x.Text, Tags: note.Read(x.Text).Tags}
			if err := h.store.AddAnnotation(ctx, reply); err != nil {
				return err
			}
		}
	}
	return nil
}

func (h *house) demoSketch(ctx context.Context, r *store.Repository, by *store.Person) (*store.Attachment, error) {
	drawn, err := demo.Sketch()
	if err != nil {
		return nil, err
	}
	kept, err := attach.Read(demo.SketchName, drawn)
	if err != nil {
		return nil, err
	}
	return h.jobs.KeepAttached(ctx, r.ID, by.ID, "", kept)
}
