// Package origin says where what a file imports comes from: a file of this
// repository, a standard library, a dependency that a manifest declares, or
// nowhere, with the reason and what may have been meant.
//
// An ecosystem is a value: which languages and manifests are its own, and how
// it resolves. Adding one is a file here and a line in Ecosystems. Nothing is
// run and nothing is fetched: what the repository says is all there is.
package origin
