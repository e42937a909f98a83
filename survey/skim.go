package survey

import (
	"context"

	"juxtagram/core/facts"
	"juxtagram/core/lang"
	"juxtagram/core/repo"
	"juxtagram/core/skim"
	"juxtagram/core/summary"
)

// Skim cuts one file of the survey, by its index, into regions; content is its
// text as the regions' lines count it. whole is that of the same survey.
func (r *Result) Skim(ctx context.Context, whole *summary.Whole, memory Memory, blobs *repo.Blobs, file int) (s *skim.Skim, content string, err error) {
	raw, err := blobs.Read(r.Files[file].Blob, facts.MaxRead)
	if err != nil {
		return nil, "", err
	}
	packed, err := memory.Details(ctx, r.Files[file].Key)
	if err != nil {
		return nil, "", err
	}
	d, err := facts.Unpack(packed)
	if err != nil {
		return nil, "", err
	}
	raw, _ = facts.Text(raw)
	content = lang.ValidText(raw)
	return skim.Of(whole.SkimInput(file, content, d)), content, nil
}
