package python

import "juxtagram/core/lang"

// effects is what Python's standard library and common frameworks do to the
// outside. What "open" does depends on its mode; core/effects tells it.
var effects = map[string]lang.Effect{
	"open": {Kind: lang.Opens, Arg: 0}, "io.open": {Kind: lang.Opens, Arg: 0}, "gzip.open": {Kind: lang.Opens, Arg: 0}, "codecs.open": {Kind: lang.Opens, Arg: 0},
	".write_text": {Kind: lang.Writes, Arg: -1}, ".write_bytes": {Kind: lang.Writes, Arg: -1}, ".read_text": {Kind: lang.Reads, Arg: -1}, ".read_bytes": {Kind: lang.Reads, Arg: -1},
	".to_csv": {Kind: lang.Writes, Arg: 0}, "pd.read_csv": {Kind: lang.Reads, Arg: 0}, ".savefig": {Kind: lang.Writes, Arg: 0}, "np.save": {Kind: lang.Writes, Arg: 0}, "np.load": {Kind: lang.Reads, Arg: 0},
	"os.remove": {Kind: lang.Writes, Arg: 0}, "os.unlink": {Kind: lang.Writes, Arg: 0}, "os.rename": {Kind: lang.Writes, Arg: 1}, "os.replace": {Kind: lang.Writes, Arg: 1}, "os.makedirs": {Kind: lang.Writes, Arg: 0}, "os.mkdir": {Kind: lang.Writes, Arg: 0},
	"os.rmdir": {Kind: lang.Writes, Arg: 0}, "shutil.rmtree": {Kind: lang.Writes, Arg: 0}, "shutil.copy": {Kind: lang.Writes, Arg: 1}, "shutil.copyfile": {Kind: lang.Writes, Arg: 1}, "shutil.move": {Kind: lang.Writes, Arg: 1},
	"os.listdir": {Kind: lang.Reads, Arg: 0}, "os.walk": {Kind: lang.Reads, Arg: 0}, "os.scandir": {Kind: lang.Reads, Arg: 0}, "glob.glob": {Kind: lang.Reads, Arg: 0},
	"os.getenv": {Kind: lang.Environment, Arg: 0}, "os.environ.get": {Kind: lang.Environment, Arg: 0}, "environ.get": {Kind: lang.Environment, Arg: 0}, "os.putenv": {Kind: lang.Environment, Arg: 0},
	"subprocess.run": {Kind: lang.Process, Arg: 0}, "subprocess.call": {Kind: lang.Process, Arg: 0}, "subprocess.check_call": {Kind: lang.Process, Arg: 0}, "subprocess.check_output": {Kind: lang.Process, Arg: 0},
	"subprocess.Popen": {Kind: lang.Process, Arg: 0}, "Popen": {Kind: lang.Process, Arg: 0}, "os.system": {Kind: lang.Process, Arg: 0}, "os.execv": {Kind: lang.Process, Arg: 0}, "os.execvp": {Kind: lang.Process, Arg: 0}, "os.popen": {Kind: lang.Process, Arg: 0}, "multiprocessing.Process": {Kind: lang.Process, Arg: -1},
	".bind": {Kind: lang.Listens, Arg: 0}, ".serve_forever": {Kind: lang.Listens, Arg: -1}, "uvicorn.run": {Kind: lang.Listens, Arg: 0}, "app.run": {Kind: lang.Listens, Arg: -1}, "web.run_app": {Kind: lang.Listens, Arg: -1}, "HTTPServer": {Kind: lang.Listens, Arg: 0}, "asyncio.start_server": {Kind: lang.Listens, Arg: 1},
	"requests.get": {Kind: lang.Connects, Arg: 0}, "requests.post": {Kind: lang.Connects, Arg: 0}, "requests.put": {Kind: lang.Connects, Arg: 0}, "requests.delete": {Kind: lang.Connects, Arg: 0}, "requests.request": {Kind: lang.Connects, Arg: 1},
	"httpx.get": {Kind: lang.Connects, Arg: 0}, "httpx.post": {Kind: lang.Connects, Arg: 0}, "urllib.request.urlopen": {Kind: lang.Connects, Arg: 0}, "request.urlopen": {Kind: lang.Connects, Arg: 0}, "urlopen": {Kind: lang.Connects, Arg: 0},
	"socket.create_connection": {Kind: lang.Connects, Arg: 0}, "sqlite3.connect": {Kind: lang.Connects, Arg: 0}, "psycopg2.connect": {Kind: lang.Connects, Arg: 0}, "psycopg.connect": {Kind: lang.Connects, Arg: 0}, "create_engine": {Kind: lang.Connects, Arg: 0}, "redis.Redis": {Kind: lang.Connects, Arg: -1}, "smtplib.SMTP": {Kind: lang.Connects, Arg: 0},
	"serial.Serial": {Kind: lang.Opens, Arg: 0},
	"logging.info":  {Kind: lang.Logs, Arg: 0}, "logging.warning": {Kind: lang.Logs, Arg: 0}, "logging.error": {Kind: lang.Logs, Arg: 0}, "logging.debug": {Kind: lang.Logs, Arg: 0}, "logging.exception": {Kind: lang.Logs, Arg: 0}, "logging.critical": {Kind: lang.Logs, Arg: 0},
	"logger.info": {Kind: lang.Logs, Arg: 0}, "logger.warning": {Kind: lang.Logs, Arg: 0}, "logger.error": {Kind: lang.Logs, Arg: 0}, "logger.debug": {Kind: lang.Logs, Arg: 0}, "logger.exception": {Kind: lang.Logs, Arg: 0},
	"log.info": {Kind: lang.Logs, Arg: 0}, "log.warning": {Kind: lang.Logs, Arg: 0}, "log.error": {Kind: lang.Logs, Arg: 0}, "log.debug": {Kind: lang.Logs, Arg: 0}, "log.exception": {Kind: lang.Logs, Arg: 0},
	"sys.stdout.write": {Kind: lang.Writes, Arg: -1}, "sys.stderr.write": {Kind: lang.Writes, Arg: -1}, "json.dump": {Kind: lang.Writes, Arg: 1}, "pickle.dump": {Kind: lang.Writes, Arg: 1}, "warnings.warn": {Kind: lang.Logs, Arg: 0},
	"logging.FileHandler": {Kind: lang.Writes, Arg: 0}, "FileHandler": {Kind: lang.Writes, Arg: 0}, "RotatingFileHandler": {Kind: lang.Writes, Arg: 0},
}

// watch are the calls in which routes, commands and jobs are given, and those
// that fetch what a name means from a configuration.
var watch = []string{
	"route", "get", "post", "put", "delete", "patch", "head", "options", "websocket", "add_url_rule", "add_route", "path", "re_path", "url", "command", "group", "add_parser", "ArgumentParser", "add_argument",
	"task", "scheduled_job", "add_job", "getint", "getfloat", "getboolean",
}
