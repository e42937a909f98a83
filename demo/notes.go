package demo

// Note is a thread of the demo: what it is about, by texts of lines, and who
// wrote what.
type Note struct {
	At       string // tag at which it was written
	Path     string // "" with Folder: the repository
	Folder   bool
	From, To string // texts in the first and the last line; "": the whole file
	By       int    // place in People
	Kind     string
	Asked    int // place in People of who is asked to act; -1: nobody
	Text     string
	Sketch   bool   // the sketch goes with it
	FollowUp string // a tag whose commit follows it up
	Replies  []Reply
}

// Reply is one of a thread's replies.
type Reply struct {
	By   int
	Text string
}

// Notes are the demo's threads. Some were written at older releases: they follow
// their code, and one has lost it.
var Notes = []Note{
	{At: "v1.4.0", Folder: true, By: 0, Kind: "note", Asked: -1,
		Text: "A *reading* is one level at one moment; a *frame* is how it travels. Where the code says sample, it means neither. #words"},
	{At: "v1.2.0", Path: "firmware/sampler.c", From: "if (window[i] == SENSOR_BUSY)", To: "i--;", By: 2, Kind: "question", Asked: -1,
		Text: "Saw 14 retries in a row on the Saltern gauge in January: the hatched hours of the 14th. Is there any limit to this? #cold-start", Sketch: true,
		Replies: []Reply{{0, "None. The datasheet says 60 ms below 2 °C; I would give up after five. See #41, and `docs/winter.md`."}}},
	{At: "v1.0.0", Path: "predict/moving_average.py", From: "A moving average", To: "A moving average", By: 1, Kind: "note", Asked: -1,
		Text: "Half a window is 45 minutes here: too late for the harbour. #lag"},
	{At: "v1.4.0", Path: "collector/ingest/dedupe.go", From: "// First tells", To: "return true", By: 1, Kind: "note", Asked: -1,
		Text: "@Kip.Marrow read this one slowly: a gauge that restarts counts from 0 again, and its first readings look like repeats. #restart"},
	{At: "v1.3.0", Path: "board/src/tide_curve.ts", By: 0, Kind: "ask", Asked: 1,
		Text: "Could you say in a comment why a gap of a quarter of an hour is drawn as a gap? Everybody asks.", FollowUp: "v1.4.0"},
	{At: "v1.4.0", Path: "collector/ingest", Folder: true, By: 0, Kind: "note", Asked: -1,
		Text: "All that can drop a reading is in this folder. Start at `link.go`. #lost-readings"},
}
