package csharp

import "juxtagram/core/lang"

// effects is what .NET's own library does to the outside.
var effects = map[string]lang.Effect{
	"File.WriteAllText": {Kind: lang.Writes, Arg: 0}, "File.WriteAllBytes": {Kind: lang.Writes, Arg: 0}, "File.AppendAllText": {Kind: lang.Writes, Arg: 0}, "File.Delete": {Kind: lang.Writes, Arg: 0}, "File.Move": {Kind: lang.Writes, Arg: 1}, "File.Create": {Kind: lang.Writes, Arg: 0}, "Directory.CreateDirectory": {Kind: lang.Writes, Arg: 0}, "StreamWriter": {Kind: lang.Writes, Arg: 0},
	"File.ReadAllText": {Kind: lang.Reads, Arg: 0}, "File.ReadAllBytes": {Kind: lang.Reads, Arg: 0}, "File.ReadAllLines": {Kind: lang.Reads, Arg: 0}, "File.OpenRead": {Kind: lang.Reads, Arg: 0}, "StreamReader": {Kind: lang.Reads, Arg: 0}, "File.Open": {Kind: lang.Opens, Arg: 0}, "FileStream": {Kind: lang.Opens, Arg: 0},
	"Environment.GetEnvironmentVariable": {Kind: lang.Environment, Arg: 0}, "Process.Start": {Kind: lang.Process, Arg: 0}, "TcpListener": {Kind: lang.Listens, Arg: 1}, "TcpClient": {Kind: lang.Connects, Arg: 0}, ".GetAsync": {Kind: lang.Connects, Arg: 0}, ".PostAsync": {Kind: lang.Connects, Arg: 0}, "SqlConnection": {Kind: lang.Connects, Arg: 0},
	"Console.WriteLine": {Kind: lang.Logs, Arg: 0}, "Console.Error.WriteLine": {Kind: lang.Logs, Arg: 0}, ".LogInformation": {Kind: lang.Logs, Arg: 0}, ".LogWarning": {Kind: lang.Logs, Arg: 0}, ".LogError": {Kind: lang.Logs, Arg: 0},
}
