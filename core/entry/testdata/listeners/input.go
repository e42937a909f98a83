package main

import (
	"net"
	"net/http"
)

func main() {
	l, _ := net.Listen("tcp", ":8300")
	_ = http.Serve(l, nil)
	_ = http.ListenAndServe(addr, nil)
}
