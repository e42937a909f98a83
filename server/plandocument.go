package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"juxtagram/core/note"
	"juxtagram/core/plan"
	"juxtagram/core/plan/document"
	"juxtagram/store"
)

func (s *Server) planDocumentRoutes() []route {
	return []route{
		handle(s, "GET", plansAt+"/{plan}/document", Read, "A plan as a document: JSON, all of it, for another installation or to keep; Markdown, for people; or one HTML page with the code that it has one read", s.exportPlan),
		handle(s, "POST", plansAt+"/document", Read, "Begin a plan from a document, JSON or Markdown; readers may begin private ones", s.importPlan, slowBody(document.MaxSize)),
		handle(s, "GET", plansAt+"/offered", Read, "Plan files in the repository itself, at its pin", s.offeredPlans),
		handle(s, "POST", plansAt+"/offered", Read, "Begin a plan from a plan file in the repository; readers may begin private ones", s.takeOffered),
	}
}

func (s *Server) exportPlan(ctx context.Context, w *who, in *struct {
	PlanPath
	Edition string `query:"edition" maxLength:"10" doc:"A number, or draft; left out: what you read"`
	As      string `query:"as" default:"json" enum:"json,markdown,html" doc:"Markdown leads to the code by path and lines; an HTML page holds it"`
	Folder  string `query:"folder" maxLength:"1000" doc:"Of Markdown: the folder of the repository that it will stand in"`
}) (*huma.StreamResponse, error) {
	v, err := s.viewOf(ctx, w, in.PlanPath, in.Edition)
	if err != nil {
		return nil, err
	}
	if in.As == "html" {
		return s.planPage(ctx, w, v)
	}
	if in.As == "markdown" {
		return download("text/markdown; charset=utf-8", plainName(v.state.Title)+".plan.md", func(out *bytes.Buffer) error {
			return document.WriteMarkdown(out, v.state, strings.Trim(in.Folder, "/"))
		}), nil
	}
	return download("application/json", plainName(v.state.Title)+".plan.json", func(out *bytes.Buffer) error {
		return document.Write(out, v.state)
	}), nil
}

// TakenPlan tells what became of a document.
type TakenPlan struct {
	Plan     int64                  `json:"plan" doc:"The new plan; 0: it was only looked at"`
	Title    string                 `json:"title"`
	Chapters int                    `json:"chapters"`
	Passages int                    `json:"passages" doc:"That can be taken"`
	Problems []document.ItemProblem `json:"problems" doc:"What was left out or changed, item by item"`
}

func (s *Server) importPlan(ctx context.Context, w *who, in *struct {
	RepositoryPath
	Private bool   `query:"private"`
	Look    bool   `query:"look" doc:"Only tell what would be taken"`
	Folder  string `query:"folder" maxLength:"1000" doc:"Of Markdown that does not say so: the folder of the repository that it stands in"`
	RawBody []byte `contentType:"application/vnd.juxtagram.plan+json"`
}) (*body[TakenPlan], error) {
	return s.takePlan(ctx, w, in.RawBody, strings.Trim(in.Folder, "/"), in.Look, in.Private)
}

// takePlan makes a plan of a document; look: only tells what would be taken. folder is
// that of the repository in which the document stands.
func (s *Server) takePlan(ctx context.Context, w *who, content []byte, folder string, look, private bool) (*body[TakenPlan], error) {
	state, problems, err := document.Read(content, document.Setting{Commit: w.repository.Pin, Folder: folder})
	var no *document.Unreadable
	if errors.As(err, &no) {
		return nil, problem(http.StatusUnprocessableEntity, "no-plan", no.Reason)
	}
	if err != nil {
		return nil, err
	}
	info := TakenPlan{Title: state.Title, Problems: append([]document.ItemProblem{}, problems...)}
	if err := s.onlyWhatIsHere(ctx, w, state, &info); err != nil {
		return nil, err
	}
	for _, c := range state.InOrder() {
		info.Chapters++
		info.Passages += len(c.Passages)
	}
	if look {
		return answer(info), nil
	}
	if !private && !w.role.Includes(store.Writer) {
		return nil, problem(http.StatusForbidden, "not-allowed", "readers may begin private plans only")
	}
	p, err := s.store.AddPlan(ctx, w.repository.ID, state.There(), private, w.person.ID)
	if err != nil {
		return nil, err
	}
	info.Plan = p.ID
	return answer(info), s.publishPlan(ctx, p)
}

// onlyWhatIsHere takes out passages whose commit, file or lines this repository
// does not have, and tells of pictures that documents do not hold.
func (s *Server) onlyWhatIsHere(ctx context.Context, w *who, state *plan.State, info *TakenPlan) error {
	lore := s.planLore(ctx, w)
	var targets []*plan.Target
	for _, p := range state.Passages {
		targets = append(targets, &p.Target)
	}
	lore.load(targets)
	for i, c := range state.InOrder() {
		for k, p := range c.Passages {
			where := fmt.Sprintf("chapters[%d].passages[%d] “%.80s”", i, k, p.Title)
			if err := lore.check(&p.Target); err != nil {
				info.Problems = append(info.Problems, document.ItemProblem{Where: where, What: err.Error() + ": it is left out"})
				if err := state.Apply(plan.Op{Kind: plan.RemovePassage, ID: p.ID}); err != nil {
					return err
				}
				continue
			}
			if n := len(note.Read(p.Text).Attached); n > 0 {
				info.Problems = append(info.Problems, document.ItemProblem{Where: where, What: "its text shows pictures or files, which documents do not hold"})
			}
		}
	}
	return lore.err
}
