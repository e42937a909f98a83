package java

import "juxtagram/core/lang"

// effects is what Java's standard library and common frameworks do to the
// outside; a type's name stands for its constructor.
var effects = map[string]lang.Effect{
	"FileWriter": {Kind: lang.Writes, Arg: 0}, "FileOutputStream": {Kind: lang.Writes, Arg: 0}, "PrintWriter": {Kind: lang.Writes, Arg: 0}, "Files.write": {Kind: lang.Writes, Arg: 0}, "Files.writeString": {Kind: lang.Writes, Arg: 0}, "Files.newBufferedWriter": {Kind: lang.Writes, Arg: 0}, "Files.newOutputStream": {Kind: lang.Writes, Arg: 0},
	"Files.createDirectories": {Kind: lang.Writes, Arg: 0}, "Files.delete": {Kind: lang.Writes, Arg: 0}, "Files.deleteIfExists": {Kind: lang.Writes, Arg: 0}, "Files.move": {Kind: lang.Writes, Arg: 1}, "Files.copy": {Kind: lang.Writes, Arg: 1}, "Files.createTempFile": {Kind: lang.Writes, Arg: 0},
	"FileReader": {Kind: lang.Reads, Arg: 0}, "FileInputStream": {Kind: lang.Reads, Arg: 0}, "Files.readString": {Kind: lang.Reads, Arg: 0}, "Files.readAllLines": {Kind: lang.Reads, Arg: 0}, "Files.readAllBytes": {Kind: lang.Reads, Arg: 0}, "Files.lines": {Kind: lang.Reads, Arg: 0}, "Files.newBufferedReader": {Kind: lang.Reads, Arg: 0}, "Files.newInputStream": {Kind: lang.Reads, Arg: 0}, "Files.walk": {Kind: lang.Reads, Arg: 0},
	".getResourceAsStream": {Kind: lang.Reads, Arg: 0}, "RandomAccessFile": {Kind: lang.Opens, Arg: 0},
	"System.getenv": {Kind: lang.Environment, Arg: 0}, "System.getProperty": {Kind: lang.Environment, Arg: 0},
	"ProcessBuilder": {Kind: lang.Process, Arg: 0}, ".exec": {Kind: lang.Process, Arg: 0},
	"ServerSocket": {Kind: lang.Listens, Arg: 0}, "HttpServer.create": {Kind: lang.Listens, Arg: 0}, "ServerSocketChannel.open": {Kind: lang.Listens, Arg: -1}, "SpringApplication.run": {Kind: lang.Listens, Arg: -1},
	"Socket": {Kind: lang.Connects, Arg: 0}, "HttpRequest.newBuilder": {Kind: lang.Connects, Arg: 0}, "DriverManager.getConnection": {Kind: lang.Connects, Arg: 0}, ".openConnection": {Kind: lang.Connects, Arg: -1}, ".openStream": {Kind: lang.Connects, Arg: -1},
	"System.out.println": {Kind: lang.Logs, Arg: 0}, "System.out.printf": {Kind: lang.Logs, Arg: 0}, "System.err.println": {Kind: lang.Logs, Arg: 0}, "System.err.printf": {Kind: lang.Logs, Arg: 0},
	"log.info": {Kind: lang.Logs, Arg: 0}, "log.warn": {Kind: lang.Logs, Arg: 0}, "log.error": {Kind: lang.Logs, Arg: 0}, "log.debug": {Kind: lang.Logs, Arg: 0}, "logger.info": {Kind: lang.Logs, Arg: 0}, "logger.warn": {Kind: lang.Logs, Arg: 0}, "logger.warning": {Kind: lang.Logs, Arg: 0}, "logger.error": {Kind: lang.Logs, Arg: 0}, "logger.debug": {Kind: lang.Logs, Arg: 0},
	"LOG.info": {Kind: lang.Logs, Arg: 0}, "LOG.warn": {Kind: lang.Logs, Arg: 0}, "LOG.error": {Kind: lang.Logs, Arg: 0}, "LOGGER.info": {Kind: lang.Logs, Arg: 0}, "LOGGER.warn": {Kind: lang.Logs, Arg: 0}, "LOGGER.error": {Kind: lang.Logs, Arg: 0},
}

// watch are the annotations and calls in which routes and jobs are given.
var watch = []string{"RequestMapping", "GetMapping", "PostMapping", "PutMapping", "DeleteMapping", "PatchMapping", "Path", "Scheduled", "WebServlet", "createContext", "scheduleAtFixedRate", "Value"}
