package level

import "testing"

func TestMetres(t *testing.T) {
	if got := Metres(-1250); got != "-1.25 m" {
		t.Fatal(got)
	}
	if Plausible(Highest + 1) {
		t.Fatal("no gauge is that high")
	}
}
