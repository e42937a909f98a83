package follow

import (
	"context"

	"juxtagram/core/lang"
	"juxtagram/core/place"
)

// symbol finds a symbol by its name in its file, overloads by their text; nil: it is
// not there, and is looked for by its lines.
func (f *Follower) symbol(ctx context.Context, placer *place.Placer, p *Point) (*place.Outcome, error) {
	end, there := placer.EndOf(p.Path)
	if !there {
		return nil, nil
	}
	now, err := f.named(ctx, f.commit, end, p.Symbol)
	if err != nil || len(now) == 0 {
		return nil, err
	}
	out, err := placer.Place(p.sign())
	if err != nil {
		return nil, err
	}
	x := now[0]
	before, err := f.named(ctx, p.Commit, p.Path, p.Symbol)
	if err != nil {
		return nil, err
	}
	if len(now) > 1 || len(before) > 1 {
		i := f.overload(now, end, &out, p)
		if i < 0 {
			return nil, nil
		}
		x = now[i]
	}
	found := found(end, x.Start, x.End)
	found.What, found.Like = place.Changed, out.Like
	if (out.What == place.Same || out.What == place.Moved) && out.Spot == found.Spot {
		found.What = out.What
		if end != p.Path {
			found.What = place.Moved
		}
	}
	return &found, nil
}

// named are the symbols of a file that have a qualified name.
func (f *Follower) named(ctx context.Context, commit, path, name string) ([]lang.Symbol, error) {
	outline, err := f.outlines(ctx, commit, path)
	if err != nil {
		return nil, err
	}
	var list []lang.Symbol
	for _, x := range outline {
		if x.Qualified == name {
			list = append(list, x)
		}
	}
	return list, nil
}

// overload tells which of several symbols of one name is meant: the one that the
// lines went to, else the one that reads most like them; -1 is none of them.
func (f *Follower) overload(now []lang.Symbol, end string, out *place.Outcome, p *Point) int {
	best, most := -1, 0
	match := func(spot place.Spot) {
		for i, x := range now {
			if n := min(x.End, spot.End) - max(x.Start, spot.Start) + 1; n > most {
				best, most = i, n
			}
		}
	}
	if out.What != place.Gone {
		if out.Path == end {
			match(out.Spot)
		}
		return best
	}
	text, err := f.Text(f.commit, end)
	if err != nil {
		return -1
	}
	if list := place.Search(text, p.Quote); len(list) > 0 && list[0].Like > Surely {
		match(list[0].Spot)
	}
	return best
}

// candidate is the symbol in which something stood, where it is still there.
func (f *Follower) candidate(ctx context.Context, path, symbol string) *place.Candidate {
	list, err := f.named(ctx, f.commit, path, symbol)
	if err != nil || len(list) == 0 {
		return nil // a candidate less
	}
	return &place.Candidate{Spot: place.Spot{Path: path, Start: list[0].Start, End: list[0].End}, Like: 0.5, Why: "symbol"}
}
