// Answers which file the TypeScript compiler resolves a module to.
const path = require("path");
const { isBuiltin } = require("module");
const root = process.argv[1];
const ts = require(path.join(root, "node_modules", "typescript"));
const config = ts.getParsedCommandLineOfConfigFile(path.join(root, "tsconfig.json"), {}, { ...ts.sys, onUnRecoverableConfigFileDiagnostic() {} });
const options = { ...(config ? config.options : {}), moduleResolution: ts.ModuleResolutionKind.Bundler, module: ts.ModuleKind.ESNext, preserveSymlinks: true };
const cache = ts.createModuleResolutionCache(root, (x) => x, options);
let text = "";
process.stdin.on("data", (d) => (text += d));
process.stdin.on("end", () => {
  const answers = [];
  for (const [file, name] of JSON.parse(text)) {
    const at = ts.resolveModuleName(name, path.join(root, file), options, ts.sys, cache).resolvedModule;
    if (at) {
      answers.push([file, name, "file", path.relative(root, at.resolvedFileName)]);
    } else if (isBuiltin(name)) {
      answers.push([file, name, "standard-library", name]);
    }
  }
  process.stdout.write(JSON.stringify(answers));
});
