package rust

import "juxtagram/core/lang"

// effects is what Rust's standard library and common crates do to the outside.
var effects = map[string]lang.Effect{
	"File::create": {Kind: lang.Writes, Arg: 0}, "fs::write": {Kind: lang.Writes, Arg: 0}, "fs::create_dir_all": {Kind: lang.Writes, Arg: 0}, "fs::remove_file": {Kind: lang.Writes, Arg: 0}, "fs::remove_dir_all": {Kind: lang.Writes, Arg: 0}, "fs::rename": {Kind: lang.Writes, Arg: 1}, "fs::copy": {Kind: lang.Writes, Arg: 1},
	"File::open": {Kind: lang.Reads, Arg: 0}, "fs::read": {Kind: lang.Reads, Arg: 0}, "fs::read_to_string": {Kind: lang.Reads, Arg: 0}, "fs::read_dir": {Kind: lang.Reads, Arg: 0},
	"env::var": {Kind: lang.Environment, Arg: 0}, "env::var_os": {Kind: lang.Environment, Arg: 0}, "env::set_var": {Kind: lang.Environment, Arg: 0}, "env::args": {Kind: lang.Environment, Arg: -1},
	"Command::new": {Kind: lang.Process, Arg: 0}, "TcpListener::bind": {Kind: lang.Listens, Arg: 0}, "UdpSocket::bind": {Kind: lang.Listens, Arg: 0}, "UnixListener::bind": {Kind: lang.Listens, Arg: 0}, "HttpServer::new": {Kind: lang.Listens, Arg: -1},
	"TcpStream::connect": {Kind: lang.Connects, Arg: 0}, "UnixStream::connect": {Kind: lang.Connects, Arg: 0}, "reqwest::get": {Kind: lang.Connects, Arg: 0},
}
