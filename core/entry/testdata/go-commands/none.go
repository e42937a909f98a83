package main

import "os/exec"

func run() { exec.Command("ls") }
