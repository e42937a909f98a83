// Prints, for each file named on standard input, what the TypeScript compiler
// says of it: one JSON object a line (see oracle.go).
const fs = require("fs");
const ts = require(process.argv[2]);

function bytes(text) {
  // byte offset of each UTF-16 unit
  const at = new Uint32Array(text.length + 1);
  let n = 0;
  for (let i = 0; i < text.length; i++) {
    at[i] = n;
    const c = text.charCodeAt(i);
    if (c >= 0xd800 && c < 0xdc00 && i + 1 < text.length) {
      at[++i] = n;
      n += 4;
    } else n += c < 0x80 ? 1 : c < 0x800 ? 2 : 3;
  }
  at[text.length] = n;
  return at;
}

function read(path) {
  const text = fs.readFileSync(path, "utf8");
  const kind = /\.tsx$/.test(path) ? ts.ScriptKind.TSX : /\.[cm]?ts$/.test(path) ? ts.ScriptKind.TS : ts.ScriptKind.JSX;
  const file = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true, kind);
  if (file.parseDiagnostics.length > 0) return { path, skip: "parse error" };
  const symbols = [], imports = [], comments = [];
  const line = (node) => ts.getLineAndCharacterOfPosition(file, node.getStart(file)).line + 1;
  const nameOf = (n) => (ts.isStringLiteral(n) ? n.text : n.getText(file).replace(/\s+/g, " "));
  const add = (level, name, node) => symbols.push([level, name, line(node)]);
  function bound(level, name) {
    if (ts.isIdentifier(name)) add(level, name.text, name);
    else for (const e of name.elements) if (!ts.isOmittedExpression(e)) bound(level, e.name);
  }
  const isFunction = (e) => e && (ts.isFunctionExpression(e) || ts.isArrowFunction(e));
  function members(node) {
    for (const m of node.members) {
      if (ts.isConstructorDeclaration(m)) {
        const word = m.getChildren(file).find((c) => c.kind === ts.SyntaxKind.ConstructorKeyword);
        add("member", "constructor", word || m);
      } else if (m.name) add("member", nameOf(m.name), m.name);
    }
  }
  function object(o) {
    for (const p of o.properties)
      if (ts.isMethodDeclaration(p) || ts.isAccessor(p) || (ts.isPropertyAssignment(p) && isFunction(p.initializer)))
        add("member", nameOf(p.name), p.name);
  }
  function held(e) {
    if (e && ts.isClassExpression(e)) members(e);
    else if (e && ts.isObjectLiteralExpression(e)) object(e);
  }
  const once = new Set();
  function commonJS(s) {
    const e = s.expression;
    if (!ts.isBinaryExpression(e) || e.operatorToken.kind !== ts.SyntaxKind.EqualsToken || !ts.isPropertyAccessExpression(e.left)) return;
    const object = e.left.expression.getText(file), name = e.left.name, right = e.right;
    if (object === "module" && name.text === "exports") {
      if (ts.isObjectLiteralExpression(right)) add("top", "exports", name);
      else if (isFunction(right) || ts.isClassExpression(right)) {
        const own = right.name && ts.isIdentifier(right.name) ? right.name : name;
        add("top", own.text, own);
      } else return;
      held(right);
    } else if (object === "exports" || object === "module.exports") {
      if (ts.isIdentifier(right) && right.text === name.text) return;
      if (once.has(name.text)) return;
      once.add(name.text);
      add("top", name.text, name);
      held(right);
    } else if (object.endsWith(".prototype") && isFunction(right)) add("member", name.text, name);
  }
  function statement(s, level) {
    if (ts.isFunctionDeclaration(s) || ts.isClassDeclaration(s)) {
      if (s.name) add(level, s.name.text, s.name);
      else symbols.push([level, "default", line(s)]);
      if (ts.isClassDeclaration(s)) members(s);
    } else if (ts.isInterfaceDeclaration(s) || ts.isEnumDeclaration(s)) {
      add(level, s.name.text, s.name);
      members(s);
    } else if (ts.isTypeAliasDeclaration(s)) add(level, s.name.text, s.name);
    else if (ts.isModuleDeclaration(s)) {
      let name = nameOf(s.name), body = s.body;
      while (body && ts.isModuleDeclaration(body)) {
        name += "." + nameOf(body.name);
        body = body.body;
      }
      symbols.push([level, name, line(s.flags & ts.NodeFlags.GlobalAugmentation ? s : s.name)]);
      if (body && body.statements) body.statements.forEach((c) => statement(c, "member"));
    } else if (ts.isVariableStatement(s)) {
      for (const d of s.declarationList.declarations) {
        bound(level, d.name);
        if (ts.isIdentifier(d.name)) held(d.initializer);
      }
    } else if (ts.isExportAssignment(s) && !s.isExportEquals) {
      const e = s.expression;
      if (isFunction(e) || ts.isClassExpression(e) || ts.isObjectLiteralExpression(e)) {
        symbols.push([level, e.name ? e.name.text : "default", line(e.name || s)]);
        held(e);
      }
    } else if (ts.isExpressionStatement(s) && level === "top") commonJS(s);
    else if (ts.isBlock(s)) s.statements.forEach((c) => statement(c, level));
    else if (ts.isIfStatement(s)) {
      statement(s.thenStatement, level);
      if (s.elseStatement) statement(s.elseStatement, level);
    } else if (ts.isTryStatement(s)) {
      statement(s.tryBlock, level);
      if (s.catchClause) statement(s.catchClause.block, level);
      if (s.finallyBlock) statement(s.finallyBlock, level);
    } else if (ts.isIterationStatement(s, false) || ts.isLabeledStatement(s)) statement(s.statement, level);
    else if (ts.isSwitchStatement(s)) for (const c of s.caseBlock.clauses) c.statements.forEach((x) => statement(x, level));
  }
  file.statements.forEach((s) => statement(s, "top"));

  const constant = (e) => e && ts.isStringLiteralLike(e);
  const seen = new Set();
  function visit(node) {
    if ((ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) && node.moduleSpecifier) imports.push([node.moduleSpecifier.text, line(node)]);
    else if (ts.isImportEqualsDeclaration(node) && ts.isExternalModuleReference(node.moduleReference)) imports.push([node.moduleReference.expression.text, line(node)]);
    else if (
      ts.isCallExpression(node) && constant(node.arguments[0]) &&
      (node.expression.kind === ts.SyntaxKind.ImportKeyword || (ts.isIdentifier(node.expression) && node.expression.text === "require"))
    )
      imports.push([node.arguments[0].text, line(node)]);
    // comments are what stands between the tokens
    if (node.kind <= ts.SyntaxKind.LastToken && node.kind !== ts.SyntaxKind.JsxText) {
      const note = (r) => r && r.forEach((c) => { if (!seen.has(c.pos)) { seen.add(c.pos); comments.push([c.pos, c.end]); } });
      if (!(node.parent && (ts.isJsxElement(node.parent) || ts.isJsxFragment(node.parent)) )) note(ts.getLeadingCommentRanges(text, node.pos));
      if (!inJsx(node) && node.kind !== ts.SyntaxKind.TemplateHead && node.kind !== ts.SyntaxKind.TemplateMiddle) note(ts.getTrailingCommentRanges(text, node.end));
    }
    node.getChildren(file).forEach(visit);
  }
  function inJsx(node) {
    const p = node.parent;
    return p && (ts.isJsxOpeningElement(p) || ts.isJsxClosingElement(p) || ts.isJsxSelfClosingElement(p) || ts.isJsxExpression(p) || ts.isJsxOpeningFragment(p) || ts.isJsxClosingFragment(p));
  }
  visit(file);
  const at = bytes(text);
  comments.sort((a, b) => a[0] - b[0]);
  return { path, symbols, imports, comments: comments.map(([a, b]) => [at[a], at[b]]) };
}

for (const path of fs.readFileSync(0, "utf8").split("\n")) {
  if (!path) continue;
  let out;
  try {
    out = read(path);
  } catch (e) {
    out = { path, skip: String(e).slice(0, 200) };
  }
  fs.writeSync(1, JSON.stringify(out) + "\n");
}
