package c

import "juxtagram/core/lang"

// effects is what the C library and POSIX do to the outside.
var effects = map[string]lang.Effect{
	"fopen": {Kind: lang.Opens, Arg: 0}, "open": {Kind: lang.Opens, Arg: 0}, "openat": {Kind: lang.Opens, Arg: 1}, "freopen": {Kind: lang.Opens, Arg: 0}, "opendir": {Kind: lang.Reads, Arg: 0}, "creat": {Kind: lang.Writes, Arg: 0},
	"fwrite": {Kind: lang.Writes, Arg: 3}, "fprintf": {Kind: lang.Writes, Arg: 0}, "fputs": {Kind: lang.Writes, Arg: 1}, "fputc": {Kind: lang.Writes, Arg: 1}, "write": {Kind: lang.Writes, Arg: 0}, "pwrite": {Kind: lang.Writes, Arg: 0}, "unlink": {Kind: lang.Writes, Arg: 0}, "remove": {Kind: lang.Writes, Arg: 0}, "rename": {Kind: lang.Writes, Arg: 1}, "mkdir": {Kind: lang.Writes, Arg: 0}, "rmdir": {Kind: lang.Writes, Arg: 0},
	"fread": {Kind: lang.Reads, Arg: 3}, "fgets": {Kind: lang.Reads, Arg: 2}, "fscanf": {Kind: lang.Reads, Arg: 0}, "read": {Kind: lang.Reads, Arg: 0}, "pread": {Kind: lang.Reads, Arg: 0}, "std::ifstream": {Kind: lang.Reads, Arg: 0}, "std::ofstream": {Kind: lang.Writes, Arg: 0},
	"getenv": {Kind: lang.Environment, Arg: 0}, "secure_getenv": {Kind: lang.Environment, Arg: 0}, "std::getenv": {Kind: lang.Environment, Arg: 0}, "setenv": {Kind: lang.Environment, Arg: 0}, "putenv": {Kind: lang.Environment, Arg: 0},
	"system": {Kind: lang.Process, Arg: 0}, "popen": {Kind: lang.Process, Arg: 0}, "execv": {Kind: lang.Process, Arg: 0}, "execve": {Kind: lang.Process, Arg: 0}, "execvp": {Kind: lang.Process, Arg: 0}, "execl": {Kind: lang.Process, Arg: 0}, "execlp": {Kind: lang.Process, Arg: 0}, "fork": {Kind: lang.Process, Arg: -1}, "posix_spawn": {Kind: lang.Process, Arg: 1},
	"bind": {Kind: lang.Listens, Arg: 1}, "listen": {Kind: lang.Listens, Arg: 0}, "connect": {Kind: lang.Connects, Arg: 1}, "getaddrinfo": {Kind: lang.Connects, Arg: 0}, "dlopen": {Kind: lang.Opens, Arg: 0},
	"syslog": {Kind: lang.Logs, Arg: 1}, "perror": {Kind: lang.Logs, Arg: 0}, "printf": {Kind: lang.Logs, Arg: 0}, "puts": {Kind: lang.Logs, Arg: 0}, "printk": {Kind: lang.Logs, Arg: 0},
}
