// Prints every named function of JavaScript and TypeScript files below a folder,
// with what it does that people pass over: path, line, name, class of code ("-":
// none), tab-separated.
const [compiler, root] = process.argv.slice(2)
const ts = require(compiler)
const fs = require('fs')
const path = require('path')

const printing = new Set(['toString', 'toJSON', 'inspect', 'toLocaleString'])
const comparing = new Set(['equals', 'isEqual', 'compare', 'compareTo', 'hashCode', 'equal'])

function plain(n) {
  while (n && (ts.isPropertyAccessExpression(n) || ts.isElementAccessExpression(n) || ts.isNonNullExpression(n))) n = n.expression
  return !!n && (ts.isIdentifier(n) || n.kind === ts.SyntaxKind.ThisKeyword || ts.isLiteralExpression(n) || n.kind === ts.SyntaxKind.TrueKeyword || n.kind === ts.SyntaxKind.FalseKeyword)
}

function sort(name, f) {
  if (printing.has(name) || /inspect\.custom/.test(name)) return 'printing'
  if (comparing.has(name)) return 'comparing'
  if (!f.body) return '-'
  let only
  if (!ts.isBlock(f.body)) only = f.body
  else if (f.body.statements.length === 1) {
    const s = f.body.statements[0]
    if (ts.isReturnStatement(s) || ts.isExpressionStatement(s)) only = s.expression
  }
  if (!only) return '-'
  if (plain(only)) return 'accessor'
  if (ts.isBinaryExpression(only) && only.operatorToken.kind === ts.SyntaxKind.EqualsToken && ts.isPropertyAccessExpression(only.left) && plain(only.right)) return 'accessor'
  if (ts.isCallExpression(only)) {
    const own = f.parameters.map((p) => p.name.getText())
    const given = only.arguments.map((a) => (ts.isSpreadElement(a) ? a.expression : a).getText())
    if (own.join() === given.join()) return 'passes'
  }
  return '-'
}

function* files(folder) {
  for (const e of fs.readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const p = path.join(folder, e.name)
    if (e.isDirectory() && !/^(node_modules|test|tests|__tests__|docs|examples|benchmarks?|build|dist|types)$/.test(e.name)) yield* files(p)
    else if (/\.([cm]?js|ts|tsx)$/.test(e.name) && !/\.(d\.ts|min\.js)$|\.test\./.test(e.name)) yield p
  }
}

for (const p of files(root)) {
  const source = ts.createSourceFile(p, fs.readFileSync(p, 'utf8'), ts.ScriptTarget.Latest, true)
  const visit = (n) => {
    let name, f
    if ((ts.isFunctionDeclaration(n) || ts.isMethodDeclaration(n) || ts.isGetAccessor(n) || ts.isSetAccessor(n)) && n.name) [name, f] = [n.name, n]
    if (ts.isVariableDeclaration(n) && n.initializer && (ts.isArrowFunction(n.initializer) || ts.isFunctionExpression(n.initializer))) [name, f] = [n.name, n.initializer]
    if (ts.isBinaryExpression(n) && ts.isPropertyAccessExpression(n.left) && ts.isFunctionExpression(n.right)) [name, f] = [n.left.name, n.right]
    if (name) {
      const line = source.getLineAndCharacterOfPosition(name.getStart()).line + 1
      console.log([path.relative(root, p), line, name.getText(), sort(name.getText(), f)].join('\t'))
    }
    ts.forEachChild(n, visit)
  }
  visit(source)
}
