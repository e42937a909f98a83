package javascript

import "juxtagram/core/lang"

// effects is what Node's and the browser's own faces do to the outside.
var effects = fileEffects(map[string]lang.Effect{
	"spawn": {Kind: lang.Process, Arg: 0}, "exec": {Kind: lang.Process, Arg: 0}, "execSync": {Kind: lang.Process, Arg: 0}, "execFile": {Kind: lang.Process, Arg: 0}, "execFileSync": {Kind: lang.Process, Arg: 0}, "spawnSync": {Kind: lang.Process, Arg: 0}, "fork": {Kind: lang.Process, Arg: 0},
	"child_process.spawn": {Kind: lang.Process, Arg: 0}, "child_process.exec": {Kind: lang.Process, Arg: 0}, "child_process.execSync": {Kind: lang.Process, Arg: 0}, "cp.spawn": {Kind: lang.Process, Arg: 0}, "cp.exec": {Kind: lang.Process, Arg: 0},
	".listen": {Kind: lang.Listens, Arg: 0}, "Bun.serve": {Kind: lang.Listens, Arg: -1}, "Deno.serve": {Kind: lang.Listens, Arg: -1}, "WebSocketServer": {Kind: lang.Listens, Arg: -1},
	"fetch": {Kind: lang.Connects, Arg: 0}, "window.fetch": {Kind: lang.Connects, Arg: 0}, "axios.get": {Kind: lang.Connects, Arg: 0}, "axios.post": {Kind: lang.Connects, Arg: 0}, "axios.put": {Kind: lang.Connects, Arg: 0}, "axios.delete": {Kind: lang.Connects, Arg: 0}, "axios": {Kind: lang.Connects, Arg: 0},
	"http.request": {Kind: lang.Connects, Arg: 0}, "http.get": {Kind: lang.Connects, Arg: 0}, "https.request": {Kind: lang.Connects, Arg: 0}, "https.get": {Kind: lang.Connects, Arg: 0}, "net.connect": {Kind: lang.Connects, Arg: 0}, "net.createConnection": {Kind: lang.Connects, Arg: 0},
	"WebSocket": {Kind: lang.Connects, Arg: 0}, "EventSource": {Kind: lang.Connects, Arg: 0}, "mongoose.connect": {Kind: lang.Connects, Arg: 0}, "createPool": {Kind: lang.Connects, Arg: -1}, "mysql.createConnection": {Kind: lang.Connects, Arg: -1},
	"console.log": {Kind: lang.Logs, Arg: 0}, "console.error": {Kind: lang.Logs, Arg: 0}, "console.warn": {Kind: lang.Logs, Arg: 0}, "console.info": {Kind: lang.Logs, Arg: 0}, "console.debug": {Kind: lang.Logs, Arg: 0},
	"logger.info": {Kind: lang.Logs, Arg: 0}, "logger.warn": {Kind: lang.Logs, Arg: 0}, "logger.error": {Kind: lang.Logs, Arg: 0}, "logger.debug": {Kind: lang.Logs, Arg: 0}, "log.info": {Kind: lang.Logs, Arg: 0}, "log.error": {Kind: lang.Logs, Arg: 0}, "log.warn": {Kind: lang.Logs, Arg: 0},
	"process.stdout.write": {Kind: lang.Writes, Arg: -1}, "process.stderr.write": {Kind: lang.Writes, Arg: -1}, "localStorage.setItem": {Kind: lang.Writes, Arg: 0}, "localStorage.getItem": {Kind: lang.Reads, Arg: 0}, "sessionStorage.setItem": {Kind: lang.Writes, Arg: 0},
	"process.kill": {Kind: lang.Process, Arg: 0},
}, map[string]lang.Effect{
	"writeFile": {Kind: lang.Writes, Arg: 0}, "appendFile": {Kind: lang.Writes, Arg: 0}, "createWriteStream": {Kind: lang.Writes, Arg: 0}, "mkdir": {Kind: lang.Writes, Arg: 0}, "rm": {Kind: lang.Writes, Arg: 0}, "unlink": {Kind: lang.Writes, Arg: 0},
	"rename": {Kind: lang.Writes, Arg: 1}, "copyFile": {Kind: lang.Writes, Arg: 1}, "readFile": {Kind: lang.Reads, Arg: 0}, "readdir": {Kind: lang.Reads, Arg: 0}, "createReadStream": {Kind: lang.Reads, Arg: 0}, "open": {Kind: lang.Opens, Arg: 0},
})

// fileEffects adds the functions of the file system under each name that it is
// commonly imported by, and those that wait.
func fileEffects(out, files map[string]lang.Effect) map[string]lang.Effect {
	for name, e := range files {
		for _, module := range []string{"fs", "fsp", "fs.promises", "fse"} {
			out[module+"."+name], out[module+"."+name+"Sync"] = e, e
		}
		if name != "open" && name != "rm" && name != "rename" && name != "mkdir" && name != "unlink" {
			out[name], out[name+"Sync"] = e, e
		}
	}
	return out
}

// watch are the calls in which routes, commands and jobs are given.
var watch = []string{"get", "post", "put", "delete", "patch", "all", "head", "options", "route", "use", "command", "schedule", "createServer", "register", "Controller", "Get", "Post", "Put", "Delete", "Patch"}
