package server

import (
	"context"
	"encoding/json"
	"net/url"
	"path"
	"strings"

	"juxtagram/core/repo"
	"juxtagram/store"
	"juxtagram/survey"
)

// OverviewInfo is an overview with how complete it is.
type OverviewInfo struct {
	Survey   SurveyInfo     `json:"survey"`
	Overview store.Overview `json:"overview"`
	Readme   *Readme        `json:"readme" doc:"The root's, else the one nearest to it; null: there is none, or it cannot be read"`
	Shelf    []ShelfLink    `json:"shelf" doc:"Submodules and dependencies that the shelf holds, as far as you may see them"`
}

// ShelfLink leads from a submodule or dependency to the repository that holds it.
type ShelfLink struct {
	Kind       string `json:"kind" enum:"submodule,dependency"`
	Name       string `json:"name" doc:"The submodule's path, or the dependency's name"`
	In         string `json:"in" doc:"The build file that asks for the dependency; empty: a submodule"`
	Repository int64  `json:"repository"`
	Title      string `json:"title" doc:"The name of that repository"`
	Path       string `json:"path" doc:"The folder of the package in it; empty: the root"`
	Commit     string `json:"commit" doc:"The commit that is meant; empty: that version is not in it"`
	Ref        string `json:"ref" doc:"The tag that is meant; empty: none"`
	Pinned     bool   `json:"pinned" doc:"The repository is pinned at that very commit"`
}

func (s *Server) overview(ctx context.Context, w *who, _ *RepositoryPath) (*body[OverviewInfo], error) {
	v, err := s.surveyNow(ctx, w)
	if err != nil {
		return nil, err
	}
	info := OverviewInfo{Survey: *surveyInfo(v), Overview: *store.Summarise(&survey.Result{}), Shelf: []ShelfLink{}}
	if err := json.Unmarshal(v.Overview, &info.Overview); err != nil {
		return nil, err
	}
	if w.repository.PeopleHidden {
		info.Overview.People, info.Overview.Knowledge = []store.PersonSum{}, []store.Knowledge{}
	}
	if list := info.Overview.Readmes; len(list) > 0 {
		info.Readme, _ = s.readmeAt(ctx, w, list[0], "", 0, 0) // without it, the page tells so
	}
	info.Shelf, err = s.shelfLinks(ctx, w, &info.Overview)
	return answer(info), err
}

// shelfLinks finds the repositories of the shelf that hold submodules and
// dependencies.
func (s *Server) shelfLinks(ctx context.Context, w *who, o *store.Overview) ([]ShelfLink, error) {
	links := []ShelfLink{}
	if len(o.Submodules) == 0 && len(o.Depends) == 0 {
		return links, nil
	}
	shelf, err := s.store.Shelf(ctx, w.person)
	if err != nil {
		return nil, err
	}
	byID, bySource := map[int64]*store.Shelved{}, map[string]*store.Shelved{}
	for i := range shelf {
		r := &shelf[i]
		if r.ID == w.repository.ID || r.State != store.Pinned && r.State != store.NeedsPin {
			continue
		}
		byID[r.ID] = r
		if bySource[sameAddress(r.Source)] == nil {
			bySource[sameAddress(r.Source)] = r
		}
	}
	if len(byID) == 0 {
		return links, nil
	}
	for _, m := range o.Submodules {
		r := bySource[sameAddress(resolveAddress(w.repository.Source, m.Address))]
		if m.Address == "" || r == nil {
			continue
		}
		l := ShelfLink{Kind: "submodule", Name: m.Path, Repository: r.ID, Title: r.Name, Pinned: r.Pin == m.Commit}
		if _, err := s.jobs.Git(r.ID).Resolve(ctx, m.Commit); err == nil {
			l.Commit = m.Commit
		} else if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		links = append(links, l)
	}
	return s.dependencyLinks(ctx, o, byID, links)
}

// dependencyLinks finds dependencies by the names that the build files of other
// repositories give to their packages.
func (s *Server) dependencyLinks(ctx context.Context, o *store.Overview, shelf map[int64]*store.Shelved, links []ShelfLink) ([]ShelfLink, error) {
	names := make([]string, len(o.Depends))
	for i, d := range o.Depends {
		names[i] = d.Name
	}
	packages, err := s.store.PackagesNamed(ctx, names)
	if err != nil || len(packages) == 0 {
		return links, err
	}
	refs := map[int64][]repo.Ref{}
	for _, d := range o.Depends {
		for _, p := range packages {
			r := shelf[p.RepositoryID]
			if r == nil || p.Kind != d.Kind || p.Name != d.Name {
				continue
			}
			if _, ok := refs[r.ID]; !ok {
				if refs[r.ID], err = s.jobs.Git(r.ID).Refs(ctx); err != nil {
					return nil, err
				}
			}
			l := ShelfLink{Kind: "dependency", Name: d.Name, In: d.In, Repository: r.ID, Title: r.Name, Path: strings.TrimPrefix(path.Dir(p.Path), ".")}
			if t := versionTag(refs[r.ID], l.Path, d); t != nil {
				l.Ref, l.Commit, l.Pinned = t.Name, t.Commit, t.Commit == r.Pin
			}
			links = append(links, l)
			break // the newest repository that holds it
		}
	}
	return links, nil
}

// versionTag finds the tag of a version, written as is usual: with and without
// a "v", after the package's folder or name.
func versionTag(refs []repo.Ref, folder string, d store.Dependency) *repo.Ref {
	version := strings.TrimLeft(d.Version, "=^~>< v")
	if version == "" {
		return nil
	}
	for _, prefix := range []string{folder + "/", d.Name + "@", d.Name + "-", path.Base(d.Name) + "@", path.Base(d.Name) + "-", ""} {
		for i := range refs {
			if refs[i].Kind == "tag" && (refs[i].Name == prefix+"v"+version || refs[i].Name == prefix+version) {
				return &refs[i]
			}
		}
	}
	return nil
}

// resolveAddress is what a submodule's address means beside that of the
// repository it stands in.
func resolveAddress(base, address string) string {
	if !strings.HasPrefix(address, "./") && !strings.HasPrefix(address, "../") {
		return address
	}
	if u, err := url.Parse(base); err == nil && u.Host != "" {
		u.Path = path.Join(u.Path, address)
		return u.String()
	}
	if host, p, ok := strings.Cut(base, ":"); ok && !strings.Contains(host, "/") {
		return host + ":" + path.Join(p, address)
	}
	return path.Join(base, address)
}

// sameAddress is equal for addresses of one place: without user, scheme and
// ".git", the host in small letters.
func sameAddress(address string) string {
	address = strings.TrimSuffix(strings.TrimRight(address, "/"), ".git")
	rest := address
	if _, after, ok := strings.Cut(address, "://"); ok {
		rest = after
	} else if host, p, ok := strings.Cut(address, ":"); ok && !strings.Contains(host, "/") {
		rest = host + "/" + strings.TrimPrefix(p, "/")
	} else {
		return path.Clean(address) // a folder
	}
	if at := strings.IndexByte(rest, '@'); at >= 0 && at < strings.IndexByte(rest+"/", '/') {
		rest = rest[at+1:]
	}
	host, p, _ := strings.Cut(rest, "/")
	return strings.ToLower(host) + "/" + p
}
