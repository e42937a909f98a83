package survey

// The stages, in the order they run.
const (
	StageTree     = "tree"
	StageSizes    = "sizes"
	StageChanges  = "changes"
	StageContents = "contents"
	StageLinks    = "links"
	StageLines    = "line-counts"
	StageLeads    = "leads"
)

// Stage describes a stage to people.
type Stage struct{ Name, Title, Unit string }

// Stages lists all stages in order.
var Stages = []Stage{
	{StageTree, "Listing the tree", "paths"},
	{StageSizes, "Measuring files", "files"},
	{StageChanges, "Reading history", "commits, merges aside"},
	{StageContents, "Reading files", "files"},
	{StageLinks, "Resolving imports", "files"},
	{StageLines, "Counting changed lines", "commits with changes"},
	{StageLeads, "Gathering leads", "leads"},
}
