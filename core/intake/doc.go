// Package intake makes a bare mirror of our own from a foreign repository: a
// folder, an address, an archive or a bundle.
//
// A foreign folder is only ever read as files: objects and refs are copied,
// nothing else, and no git command runs in it, so its configuration and hooks
// never come to bear. Alternates and symbolic links are refused. Archives are
// streamed; what is not a repository becomes one made commit.
package intake
