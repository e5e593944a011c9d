"""check_layers.py SOURCE: folders of the core and rooms of the window include only what their target may use; the core
knows no Qt, and what one works with no widget."""
import os
import re
import sys

source = os.path.join(sys.argv[1], "src")
wrong = []


def targets(folder, function):
    """Names and what they use, in order."""
    text = open(os.path.join(source, folder, "CMakeLists.txt"), encoding="utf-8").read()
    uses = {}
    for name, body in re.findall(r"^" + function + r"\((\w+)(.*?)\)\n", text, re.S | re.M):
        found = re.search(r"USES ([\w ]+?)\s*(?:LIBRARIES|$)", body + "\n", re.S)
        uses[name] = set(found.group(1).split()) if found else set()
        for used in uses[name] - set(list(uses)[:-1]):
            wrong.append(f"{name} uses {used}, which does not stand above it")
    return uses


def includes(folder, name):
    for at, _, files in os.walk(os.path.join(source, folder, name)):
        for file in sorted(files):
            if not file.endswith((".h", ".cpp")):
                continue
            text = open(os.path.join(at, file), encoding="utf-8").read()
            for path in re.findall(r'^#include ["<]([^">]+)[">]', text, re.M):
                yield file, path, text


core = targets("core", "octaphon_core_folder")
for name in core:
    for file, path, text in includes("core", name):
        top = path.split("/")[0]
        prints = path in ("iostream", "cstdio") and "printf(" in text.replace("snprintf(", "")
        if re.match(r"Q[A-Z]|Qt", path) or top == "app" or prints:
            wrong.append(f"core/{name}/{file}: {path}")
        if "/" in path and top in core and top != name and top not in core[name]:
            wrong.append(f"core/{name}/{file}: includes {path}, but {name} does not use {top}")

rooms = targets("app", "octaphon_app_room")
folders = {entry for entry in os.listdir(os.path.join(source, "app")) if os.path.isdir(os.path.join(source, "app", entry))}
for name in sorted(folders ^ set(rooms)):
    wrong.append(f"app/{name}: a folder without a target, or a target without a folder")
shared = {"look", "work", "commands", "controls"}
for name, uses in rooms.items():
    if name != "window" and not uses <= shared:
        wrong.append(f"app/{name}: a room for a part knows {', '.join(sorted(uses - shared))}")
    for file, path, _ in includes("app", name):
        parts = path.split("/")
        if parts[0] == "app" and (len(parts) != 3 or parts[1] != name and parts[1] not in uses):
            wrong.append(f"app/{name}/{file}: includes {path}, but {name} does not use it")
        if name == "work" and re.match(r"QWidget|QApplication|Q\w*(Dialog|View|Box|Button|Label|Menu)$", path):
            wrong.append(f"app/work/{file}: {path} is for rooms with widgets")
        if name == "look" and parts[0] == "app" and parts[1] != "look":
            wrong.append(f"app/look/{file}: {path}")

for file, path, _ in includes("", "receiver"):
    if path.split("/")[0] in set(core) | {"app", "cli"}:
        wrong.append(f"receiver/{file}: includes {path}, but a receiver knows a manifest and files alone")

print("\n".join(wrong) or f"{len(core)} folders and {len(rooms)} rooms, all in one direction")
sys.exit(1 if wrong else 0)
