"""Prints, for each file named on standard input, what Python's own parser and
tokenizer say of it: one JSON object a line (see oracle.go)."""
import ast
import io
import json
import sys
import tokenize
import warnings

warnings.simplefilter("ignore")
sys.setrecursionlimit(20000)


def targets(node):
    if isinstance(node, ast.Name):
        yield node
    elif isinstance(node, (ast.Tuple, ast.List)):
        for part in node.elts:
            yield from targets(part)
    elif isinstance(node, ast.Starred):
        yield from targets(node.value)


def statements(body):
    """The statements of a body and of the blocks in it that are no scope."""
    for node in body:
        yield node
        for name in ("body", "orelse", "finalbody"):
            if not isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
                yield from statements(getattr(node, name, []))
        for handler in getattr(node, "handlers", []):
            yield from statements(handler.body)
        for case in getattr(node, "cases", []):
            yield from statements(case.body)


def declared(body, level, out):
    assigned = []

    def assign(target):
        for name in targets(target):
            assigned.append((name.lineno, name.col_offset, name.id))

    for node in statements(body):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            out.append([level, node.name, node.lineno])
        elif isinstance(node, ast.ClassDef):
            out.append([level, node.name, node.lineno])
            declared(node.body, "member", out)
        elif isinstance(node, ast.Assign):
            for target in node.targets:
                assign(target)
        elif isinstance(node, ast.AnnAssign):
            assign(node.target)
        elif hasattr(ast, "TypeAlias") and isinstance(node, ast.TypeAlias):
            out.append([level, node.name.id, node.lineno])
    seen = set()
    for line, _, name in sorted(assigned):
        if name not in seen:
            seen.add(name)
            out.append([level, name, line])


for path in sys.stdin.read().split("\n"):
    if not path:
        continue
    raw = open(path, "rb").read()
    try:
        tree = ast.parse(raw)
        encoding, _ = tokenize.detect_encoding(io.BytesIO(raw).readline)
        if encoding not in ("utf-8", "utf-8-sig", "ascii"):
            raise SyntaxError(encoding)
        symbols, imports, comments = [], [], []
        declared(tree.body, "top", symbols)
        for node in ast.walk(tree):
            if isinstance(node, ast.Import):
                imports += [[alias.name, node.lineno] for alias in node.names]
            elif isinstance(node, ast.ImportFrom):
                imports.append(["." * node.level + (node.module or ""), node.lineno])
        starts = [0]
        for line in raw.split(b"\n"):
            starts.append(starts[-1] + len(line) + 1)
        lines = raw.split(b"\n")
        skip = 3 if raw.startswith(b"\xef\xbb\xbf") else 0
        for token in tokenize.tokenize(io.BytesIO(raw).readline):
            if token.type == tokenize.COMMENT:
                row, column = token.start
                line = lines[row - 1].decode("utf-8-sig" if row == 1 else "utf-8")
                at = starts[row - 1] + len(line[:column].encode()) + (skip if row == 1 else 0)
                comments.append([at, at + len(token.string.encode())])
    except (SyntaxError, ValueError, RecursionError, tokenize.TokenError) as e:
        print(json.dumps({"path": path, "skip": str(e)}))
        continue
    print(json.dumps({"path": path, "symbols": symbols, "imports": imports, "comments": comments}))
