package server_test

import "github.com/danielgtaylor/huma/v2"

// operations lists what a path of the description can be asked for.
func operations(item *huma.PathItem) map[string]*huma.Operation {
	out := map[string]*huma.Operation{}
	for method, op := range map[string]*huma.Operation{"GET": item.Get, "PUT": item.Put, "POST": item.Post, "DELETE": item.Delete, "PATCH": item.Patch, "HEAD": item.Head, "OPTIONS": item.Options} {
		if op != nil {
			out[method] = op
		}
	}
	return out
}
