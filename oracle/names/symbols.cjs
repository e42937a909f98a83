// Prints for every identifier of the TypeScript files below a folder where the
// compiler's checker says it is made.
const fs = require("fs");
const path = require("path");
const [root, web] = process.argv.slice(1);
const ts = require(path.join(web, "node_modules", "typescript"));
const files = [];
(function walk(dir) {
  for (const e of fs.readdirSync(dir, { withFileTypes: true })) {
    const at = path.join(dir, e.name);
    if (e.isDirectory() && e.name !== "node_modules") walk(at);
    else if (/\.tsx?$/.test(e.name)) files.push(at);
  }
})(root);
const program = ts.createProgram(files, {
  moduleResolution: ts.ModuleResolutionKind.Bundler, module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ESNext, strict: true, noEmit: true, skipLibCheck: true,
  baseUrl: path.dirname(root), paths: { "@/*": [path.join(root, "*")] }, jsx: ts.JsxEmit.Preserve, types: [],
});
const checker = program.getTypeChecker();
const out = [];
const inside = (f) => !path.relative(root, f).startsWith("..");
for (const source of program.getSourceFiles()) {
  if (!inside(source.fileName) || source.fileName.includes("node_modules")) continue;
  const file = path.relative(root, source.fileName);
  (function visit(n) {
    if (ts.isIdentifier(n) && !(n.parent && n.parent.name === n && !ts.isPropertyAccessExpression(n.parent) && !ts.isImportSpecifier(n.parent) && !ts.isExportSpecifier(n.parent))) {
      let s = checker.getSymbolAtLocation(n);
      if (n.parent && ts.isShorthandPropertyAssignment(n.parent)) s = checker.getShorthandAssignmentValueSymbol(n.parent) || s;
      if (s && s.flags & ts.SymbolFlags.Alias) s = checker.getAliasedSymbol(s);
      const made = s && s.declarations && s.declarations[0];
      if (made) {
        const at = source.getLineAndCharacterOfPosition(n.getStart());
        const column = Buffer.byteLength(source.text.slice(source.getPositionOfLineAndCharacter(at.line, 0), n.getStart()));
        const from = made.getSourceFile();
        const name = ts.getNameOfDeclaration(made) || made;
        const row = { File: file, Line: at.line + 1, Column: column, Name: n.text, To: "", ToLine: 0 };
        if (inside(from.fileName) && !from.fileName.includes("node_modules")) {
          row.To = path.relative(root, from.fileName);
          row.ToLine = ts.isSourceFile(made) ? 1 : from.getLineAndCharacterOfPosition(name.getStart(from)).line + 1;
        }
        out.push(row);
      }
    }
    ts.forEachChild(n, visit);
  })(source);
}
process.stdout.write(JSON.stringify(out));
