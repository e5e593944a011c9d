"""check_layers.py SOURCE: folders of the core include only what their target may use, and the core knows no Qt."""
import os
import re
import sys

core = os.path.join(sys.argv[1], "src", "core")
text = open(os.path.join(core, "CMakeLists.txt"), encoding="utf-8").read()
uses, order, wrong = {}, [], []
for name, body in re.findall(r"octaphon_core_folder\((\w+)(.*?)\)\n", text, re.S):
    found = re.search(r"USES ([\w ]+?)\s*(?:LIBRARIES|$)", body + "\n", re.S)
    uses[name] = set(found.group(1).split()) if found else set()
    for used in uses[name]:
        if used not in order:
            wrong.append(f"{name} uses {used}, which does not stand above it")
    order.append(name)
for name in order:
    folder = os.path.join(core, name)
    for file in sorted(os.path.relpath(os.path.join(at, f), folder) for at, _, files in os.walk(folder) for f in files):
        for line in open(os.path.join(folder, file), encoding="utf-8"):
            include = re.match(r'#include ["<]([^">]+)[">]', line)
            if not include:
                continue
            path = include.group(1)
            top = path.split("/")[0]
            if re.match(r"Q[A-Z]|Qt", path) or path in ("iostream", "cstdio") and "printf(" in open(os.path.join(folder, file)).read().replace("snprintf(", ""):
                wrong.append(f"{name}/{file}: {path}")
            if "/" in path and top in order and top != name and top not in uses[name]:
                wrong.append(f"{name}/{file}: includes {path}, but {name} does not use {top}")
print("\n".join(wrong) or f"{len(order)} folders, all in one direction")
sys.exit(1 if wrong else 0)
