package ruby

import "juxtagram/core/lang"

// effects is what Ruby's standard library does to the outside.
var effects = map[string]lang.Effect{
	"File.open": {Kind: lang.Opens, Arg: 0}, "File.new": {Kind: lang.Opens, Arg: 0}, "File.write": {Kind: lang.Writes, Arg: 0}, "File.binwrite": {Kind: lang.Writes, Arg: 0}, "IO.write": {Kind: lang.Writes, Arg: 0}, "FileUtils.mkdir_p": {Kind: lang.Writes, Arg: 0}, "FileUtils.rm_rf": {Kind: lang.Writes, Arg: 0}, "FileUtils.cp": {Kind: lang.Writes, Arg: 1}, "FileUtils.mv": {Kind: lang.Writes, Arg: 1}, "File.delete": {Kind: lang.Writes, Arg: 0},
	"File.read": {Kind: lang.Reads, Arg: 0}, "File.readlines": {Kind: lang.Reads, Arg: 0}, "IO.read": {Kind: lang.Reads, Arg: 0}, "Dir.glob": {Kind: lang.Reads, Arg: 0}, "File.binread": {Kind: lang.Reads, Arg: 0}, "YAML.load_file": {Kind: lang.Reads, Arg: 0},
	"ENV.fetch": {Kind: lang.Environment, Arg: 0}, "system": {Kind: lang.Process, Arg: 0}, "exec": {Kind: lang.Process, Arg: 0}, "spawn": {Kind: lang.Process, Arg: 0}, "Open3.capture3": {Kind: lang.Process, Arg: 0}, "Open3.capture2": {Kind: lang.Process, Arg: 0}, "IO.popen": {Kind: lang.Process, Arg: 0},
	"TCPServer.new": {Kind: lang.Listens, Arg: 1}, "TCPSocket.new": {Kind: lang.Connects, Arg: 0}, "Net::HTTP.get": {Kind: lang.Connects, Arg: 0}, "Net::HTTP.start": {Kind: lang.Connects, Arg: 0}, "URI.open": {Kind: lang.Connects, Arg: 0},
	"logger.info": {Kind: lang.Logs, Arg: 0}, "logger.warn": {Kind: lang.Logs, Arg: 0}, "logger.error": {Kind: lang.Logs, Arg: 0}, "puts": {Kind: lang.Logs, Arg: 0}, "warn": {Kind: lang.Logs, Arg: 0}, "Rails.logger.info": {Kind: lang.Logs, Arg: 0},
}

// watch are the calls in which routes are given.
var watch = []string{"get", "post", "put", "delete", "patch", "resources", "resource", "root", "namespace", "mount"}
