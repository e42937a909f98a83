package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/plan"
	"juxtagram/localpg/pgtest"
	"juxtagram/store"
)

func TestMain(m *testing.M) { pgtest.Main(m) }

// TestAttachmentsThatNothingUsesAreDropped: those that a text or a plan uses stay.
func TestAttachmentsThatNothingUsesAreDropped(t *testing.T) {
	ctx := context.Background()
	s := pgtest.Store(t)
	p, err := s.AddPerson(ctx, store.Person{Name: "Oona", Email: "oona@example.test", Owner: true, CreatedAt: time.Now()}, false)
	require.NoError(t, err)
	r, err := s.AddRepository(ctx, store.Repository{Name: "m", SourceKind: "folder", Source: "x", State: store.Pinned, CreatedBy: &p.ID})
	require.NoError(t, err)
	for _, uid := range []string{"in-a-text", "in-a-plan", "in-nothing"} {
		added, err := s.AddAttachment(ctx, &store.Attachment{UID: uid, Repository: r.ID, Person: p.ID, Name: uid, Type: "text/plain", Size: 10, Blob: "blob of " + uid})
		require.NoError(t, err)
		assert.True(t, added)
	}
	again, err := s.AddAttachment(ctx, &store.Attachment{UID: "in-a-text", Repository: r.ID, Person: p.ID, Name: "another", Type: "text/plain", Blob: "other"})
	require.NoError(t, err)
	assert.False(t, again, "one that is there stays as it is")
	a := &store.Annotation{Repository: r.ID, Author: p.ID, AuthorName: p.Name, Body: "[x](attachment:in-a-text)", Target: &store.NoteTarget{Kind: store.OnRepository}}
	require.NoError(t, s.AddAnnotation(ctx, a))
	require.NoError(t, s.UseAttachments(ctx, r.ID, p.ID, store.UsesOf(a)))
	state := plan.New()
	require.NoError(t, state.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "x"}))
	made, err := s.AddPlan(ctx, r.ID, state, false, p.ID)
	require.NoError(t, err)
	require.NoError(t, s.UseInPlan(ctx, r.ID, p.ID, made.ID, []string{"in-a-plan"}))

	waiting, err := s.WaitingBytes(ctx, p.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 10, waiting)
	young, err := s.DropWaiting(ctx, time.Now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Empty(t, young, "a draft may still want it")
	gone, err := s.DropWaiting(ctx, time.Now().Add(time.Hour))
	require.NoError(t, err)
	assert.Equal(t, []string{"blob of in-nothing"}, gone)
	left, err := s.Attachments(ctx, r.ID, p.ID)
	require.NoError(t, err)
	assert.Len(t, left, 2)
}

// TestAStateIsKeptAndFolded: past the point where the state is kept anew, and with
// nothing held in memory, a plan is what its operations made.
func TestAStateIsKeptAndFolded(t *testing.T) {
	ctx := context.Background()
	url := pgtest.URL(t)
	open := func() *store.Store {
		s, err := store.Open(ctx, url)
		require.NoError(t, err)
		t.Cleanup(s.Close)
		return s
	}
	s := open()
	require.NoError(t, s.Migrate(ctx))
	p, err := s.AddPerson(ctx, store.Person{Name: "Oona", Email: "oona@example.test", Owner: true, CreatedAt: time.Now()}, false)
	require.NoError(t, err)
	r, err := s.AddRepository(ctx, store.Repository{Name: "m", SourceKind: "folder", Source: "x", State: store.Pinned, CreatedBy: &p.ID})
	require.NoError(t, err)
	state := plan.New()
	require.NoError(t, state.Apply(plan.Op{Kind: plan.SetPlan, Field: "title", To: "x"}))
	made, err := s.AddPlan(ctx, r.ID, state, false, p.ID)
	require.NoError(t, err)
	order := ""
	for i := range 250 {
		order, err = plan.Between(order, "")
		require.NoError(t, err)
		id := "chapter-" + order
		made, err = s.ApplyOps(ctx, made.ID, p.ID, []store.ClientOp{{ClientID: id, Op: plan.Op{Kind: plan.AddChapter, NewCh: &plan.Chapter{ID: id, Order: order, Title: id}}}})
		require.NoError(t, err)
		assert.EqualValues(t, i+1, made.Seq)
	}
	fresh, err := open().Plan(ctx, made.ID)
	require.NoError(t, err)
	assert.Equal(t, made.State, fresh.State)
	assert.Len(t, fresh.State.InOrder(), 250)
}
