package golang

import "juxtagram/core/lang"

// effects is what Go's standard library and common frameworks do to the outside.
var effects = map[string]lang.Effect{
	"os.Create": {Kind: lang.Writes, Arg: 0}, "os.WriteFile": {Kind: lang.Writes, Arg: 0}, "ioutil.WriteFile": {Kind: lang.Writes, Arg: 0},
	"os.OpenFile": {Kind: lang.Opens, Arg: 0}, "os.Open": {Kind: lang.Reads, Arg: 0}, "os.ReadFile": {Kind: lang.Reads, Arg: 0}, "ioutil.ReadFile": {Kind: lang.Reads, Arg: 0},
	"os.ReadDir": {Kind: lang.Reads, Arg: 0}, "filepath.WalkDir": {Kind: lang.Reads, Arg: 0}, "filepath.Walk": {Kind: lang.Reads, Arg: 0}, "filepath.Glob": {Kind: lang.Reads, Arg: 0},
	"os.Mkdir": {Kind: lang.Writes, Arg: 0}, "os.MkdirAll": {Kind: lang.Writes, Arg: 0}, "os.MkdirTemp": {Kind: lang.Writes, Arg: 1}, "os.CreateTemp": {Kind: lang.Writes, Arg: 1},
	"os.Remove": {Kind: lang.Writes, Arg: 0}, "os.RemoveAll": {Kind: lang.Writes, Arg: 0}, "os.Rename": {Kind: lang.Writes, Arg: 1}, "os.Symlink": {Kind: lang.Writes, Arg: 1}, "os.Chmod": {Kind: lang.Writes, Arg: 0},
	"os.Getenv": {Kind: lang.Environment, Arg: 0}, "os.LookupEnv": {Kind: lang.Environment, Arg: 0}, "os.Setenv": {Kind: lang.Environment, Arg: 0}, "os.Environ": {Kind: lang.Environment, Arg: -1},
	"exec.Command": {Kind: lang.Process, Arg: 0}, "exec.CommandContext": {Kind: lang.Process, Arg: 1}, "os.StartProcess": {Kind: lang.Process, Arg: 0}, "syscall.Exec": {Kind: lang.Process, Arg: 0},
	"net.Listen": {Kind: lang.Listens, Arg: 1}, "net.ListenPacket": {Kind: lang.Listens, Arg: 1}, "net.ListenUDP": {Kind: lang.Listens, Arg: -1}, "net.ListenTCP": {Kind: lang.Listens, Arg: -1}, "tls.Listen": {Kind: lang.Listens, Arg: 1},
	"http.ListenAndServe": {Kind: lang.Listens, Arg: 0}, "http.ListenAndServeTLS": {Kind: lang.Listens, Arg: 0}, ".ListenAndServe": {Kind: lang.Listens, Arg: -1}, ".ListenAndServeTLS": {Kind: lang.Listens, Arg: -1},
	"http.Serve": {Kind: lang.Listens, Arg: -1},
	"net.Dial":   {Kind: lang.Connects, Arg: 1}, "net.DialTimeout": {Kind: lang.Connects, Arg: 1}, ".DialContext": {Kind: lang.Connects, Arg: 2}, "tls.Dial": {Kind: lang.Connects, Arg: 1},
	"http.Get": {Kind: lang.Connects, Arg: 0}, "http.Post": {Kind: lang.Connects, Arg: 0}, "http.Head": {Kind: lang.Connects, Arg: 0}, "http.PostForm": {Kind: lang.Connects, Arg: 0},
	"http.NewRequest": {Kind: lang.Connects, Arg: 1}, "http.NewRequestWithContext": {Kind: lang.Connects, Arg: 2}, "sql.Open": {Kind: lang.Connects, Arg: 1}, "grpc.Dial": {Kind: lang.Connects, Arg: 0}, "grpc.NewClient": {Kind: lang.Connects, Arg: 0},
	"gorm.Open": {Kind: lang.Connects, Arg: 0}, "pgxpool.New": {Kind: lang.Connects, Arg: 1}, "pgx.Connect": {Kind: lang.Connects, Arg: 1}, "redis.NewClient": {Kind: lang.Connects, Arg: -1},
	"log.Print": {Kind: lang.Logs, Arg: 0}, "log.Printf": {Kind: lang.Logs, Arg: 0}, "log.Println": {Kind: lang.Logs, Arg: 0}, "log.Fatal": {Kind: lang.Logs, Arg: 0}, "log.Fatalf": {Kind: lang.Logs, Arg: 0}, "log.Fatalln": {Kind: lang.Logs, Arg: 0}, "log.Panicf": {Kind: lang.Logs, Arg: 0},
	"slog.Info": {Kind: lang.Logs, Arg: 0}, "slog.Warn": {Kind: lang.Logs, Arg: 0}, "slog.Error": {Kind: lang.Logs, Arg: 0}, "slog.Debug": {Kind: lang.Logs, Arg: 0},
	"klog.Infof": {Kind: lang.Logs, Arg: 0}, "klog.Errorf": {Kind: lang.Logs, Arg: 0}, "logrus.Infof": {Kind: lang.Logs, Arg: 0}, "logrus.Errorf": {Kind: lang.Logs, Arg: 0},
	"fmt.Fprintf": {Kind: lang.Writes, Arg: 0}, "fmt.Fprintln": {Kind: lang.Writes, Arg: 0}, "fmt.Fprint": {Kind: lang.Writes, Arg: 0}, "io.WriteString": {Kind: lang.Writes, Arg: 0},
}

// watch are the calls in which routes, commands and jobs are given, and those
// that fetch what a name means from flags and configurations.
var watch = []string{
	"HandleFunc", "Handle", "GET", "POST", "PUT", "DELETE", "PATCH", "HEAD", "OPTIONS", "Get", "Post", "Put", "Delete", "Patch", "Head", "Options", "Any", "Method",
	"Command", "AddFunc", "AddJob", "String", "StringVar", "BindEnv", "GetString", "SetDefault",
}
