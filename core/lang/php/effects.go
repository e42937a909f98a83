package php

import "juxtagram/core/lang"

// effects is what PHP's own functions do to the outside.
var effects = map[string]lang.Effect{
	"fopen": {Kind: lang.Opens, Arg: 0}, "file_put_contents": {Kind: lang.Writes, Arg: 0}, "fwrite": {Kind: lang.Writes, Arg: 0}, "fputs": {Kind: lang.Writes, Arg: 0}, "unlink": {Kind: lang.Writes, Arg: 0}, "mkdir": {Kind: lang.Writes, Arg: 0}, "rename": {Kind: lang.Writes, Arg: 1}, "copy": {Kind: lang.Writes, Arg: 1}, "move_uploaded_file": {Kind: lang.Writes, Arg: 1},
	"file_get_contents": {Kind: lang.Reads, Arg: 0}, "fread": {Kind: lang.Reads, Arg: 0}, "fgets": {Kind: lang.Reads, Arg: 0}, "file": {Kind: lang.Reads, Arg: 0}, "readfile": {Kind: lang.Reads, Arg: 0}, "scandir": {Kind: lang.Reads, Arg: 0}, "parse_ini_file": {Kind: lang.Reads, Arg: 0},
	"getenv": {Kind: lang.Environment, Arg: 0}, "env": {Kind: lang.Environment, Arg: 0}, "putenv": {Kind: lang.Environment, Arg: 0}, "exec": {Kind: lang.Process, Arg: 0}, "shell_exec": {Kind: lang.Process, Arg: 0}, "system": {Kind: lang.Process, Arg: 0}, "passthru": {Kind: lang.Process, Arg: 0}, "proc_open": {Kind: lang.Process, Arg: 0}, "popen": {Kind: lang.Process, Arg: 0},
	"fsockopen": {Kind: lang.Connects, Arg: 0}, "curl_init": {Kind: lang.Connects, Arg: 0}, "mysqli_connect": {Kind: lang.Connects, Arg: 0}, "stream_socket_client": {Kind: lang.Connects, Arg: 0}, "stream_socket_server": {Kind: lang.Listens, Arg: 0}, "mail": {Kind: lang.Connects, Arg: 0},
	"error_log": {Kind: lang.Logs, Arg: 0}, "syslog": {Kind: lang.Logs, Arg: 1}, "trigger_error": {Kind: lang.Logs, Arg: 0},
}

// watch are the calls in which routes are given.
var watch = []string{"get", "post", "put", "delete", "patch", "any", "add_action", "add_filter", "register_rest_route"}
