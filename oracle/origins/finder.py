"""Answers where modules are found, by the import system's own path finder."""

import importlib.machinery
import json
import os
import sys

root = sys.argv[1]
finder = importlib.machinery.PathFinder


def find(name, path):
    """The spec of a dotted name, found step by step below a list of folders."""
    spec = None
    for part in name.split("."):
        full = part if spec is None else spec.name + "." + part
        try:
            spec = finder.find_spec(full, path)
        except KeyError:  # a namespace whose parent is not loaded
            return None
        if spec is None:
            return None
        path = list(spec.submodule_search_locations or [])
    return spec


answers = []
for file, text in json.load(sys.stdin):
    folder = os.path.dirname(os.path.join(root, file))
    top = folder
    while os.path.exists(os.path.join(top, "__init__.py")):
        top = os.path.dirname(top)
    if text.startswith("."):
        rest = text.lstrip(".")
        base = folder
        for _ in range(len(text) - len(rest) - 1):
            base = os.path.dirname(base)
        if not rest:
            init = os.path.join(base, "__init__.py")
            if os.path.exists(init):
                answers.append([file, text, "file", os.path.relpath(init, root)])
            continue
        spec = find(rest, [base])
    else:
        first = text.split(".")[0]
        spec = find(text, [top])
        if spec is None and first in sys.stdlib_module_names:
            answers.append([file, text, "standard-library", first])
            continue
    if spec is None or spec.origin is None:
        continue
    answers.append([file, text, "file", os.path.relpath(spec.origin, root)])
json.dump(answers, sys.stdout)
