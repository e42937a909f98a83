// Package server speaks HTTP: the API, its description, sessions, permissions,
// live events and the web application's files.
//
// Every route is one line in a table (see routes.go) that says who may use it;
// one middleware holds everybody to it. A handler decodes, calls, encodes and
// returns an error; problems.go turns errors into problem details (RFC 9457).
package server
