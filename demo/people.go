package demo

// Person is somebody who may sign in to the demo.
type Person struct {
	Name, Email, Role string // Role in the demo repository
	Owner             bool
}

// Password opens every account of the demo. It stands here for all to see: the
// demo serves on loopback and holds nothing that is anybody's.
const Password = "marshgauge-demo"

// People are the accounts of the demo.
var People = []Person{
	{Name: "Oona Fell", Email: "oona@marshgauge.test", Role: "keeper", Owner: true},
	{Name: "Tam Reddick", Email: "tam@marshgauge.test", Role: "writer"},
	{Name: "Kip Marrow", Email: "kip@marshgauge.test", Role: "reader"},
}
