package api

import "net/http"

func routes(mux *http.ServeMux, r *router) {
	mux.HandleFunc("GET /stations/{id}", show)
	mux.Handle("/static/", files)
	r.GET("/levels", levels)
	r.Delete("/levels/:id", remove)
	r.Method("PUT", "/levels/:id", replace)
	r.Handle("PATCH", "/levels/:id", mend)
	r.Get("tide") // no pattern
	http.Get("https://marsh.test/")
}
