"""Prints every function of Python files below a folder, with what it does that
people pass over: path, line, name, class of code ("-": none), tab-separated."""
import ast, os, sys

PRINTING = {"__repr__", "__str__", "__format__", "__bytes__"}
COMPARING = {"__eq__", "__ne__", "__lt__", "__le__", "__gt__", "__ge__", "__hash__"}


def plain(node):
    """A name, a member of one, an item of one or a constant."""
    while isinstance(node, (ast.Attribute, ast.Subscript)):
        node = node.value
    return isinstance(node, (ast.Name, ast.Constant))


def sort(f):
    if f.name in PRINTING:
        return "printing"
    if f.name in COMPARING:
        return "comparing"
    body = f.body
    if body and isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Constant):
        body = body[1:]
    if len(body) != 1:
        return "-"
    s = body[0]
    if isinstance(s, ast.Return) and s.value is not None and plain(s.value):
        return "accessor"
    if isinstance(s, ast.Assign) and plain(s.value) and len(s.targets) == 1 and isinstance(s.targets[0], ast.Attribute):
        return "accessor"
    call = s.value if isinstance(s, (ast.Return, ast.Expr)) else None
    if isinstance(call, ast.Call):
        a = f.args
        own = [x.arg for x in a.posonlyargs + a.args + a.kwonlyargs] + [x.arg for x in (a.vararg, a.kwarg) if x]
        if own[:1] in (["self"], ["cls"]):
            own = own[1:]
        given = [x.value if isinstance(x, ast.Starred) else x for x in call.args] + [k.value for k in call.keywords]
        if [getattr(x, "id", None) for x in given] == own:
            return "passes"
    return "-"


# Some packages of the library are enough, and others for tuning.
WANTED = {
    "stdlib": "asyncio email json logging unittest pathlib.py tarfile.py shutil.py subprocess.py threading.py".split(),
    "stdlib-tuned": "http urllib xml collections argparse.py configparser.py zipfile.py ftplib.py imaplib.py".split(),
}

root, corpus = sys.argv[1:]
for folder, folders, files in os.walk(root):
    folders[:] = [f for f in sorted(folders) if f not in ("test", "tests", "site-packages", "idlelib", "lib2to3", "__pycache__", "turtledemo", "idle_test")]
    for name in sorted(files):
        if not name.endswith(".py"):
            continue
        path = os.path.join(folder, name)
        if os.path.relpath(path, root).split(os.sep)[0] not in WANTED[corpus]:
            continue
        try:
            tree = ast.parse(open(path, "rb").read())
        except SyntaxError:
            continue
        for n in ast.walk(tree):
            if isinstance(n, (ast.FunctionDef, ast.AsyncFunctionDef)):
                print(os.path.relpath(path, root), n.lineno, n.name, sort(n), sep="\t")
