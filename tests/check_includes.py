"""check_includes.py ROOT: exit 0 where every folder of the core includes only what its target may use.

What it may use stands in src/core/CMakeLists.txt: the folders behind USES, and those that they use in turn."""
import pathlib
import re
import sys

ROOT = pathlib.Path(sys.argv[1])
CORE = ROOT / "src/core"


def targets():
    """Folder -> the folders it names, in the order of the file."""
    text = (CORE / "CMakeLists.txt").read_text(encoding="utf-8")
    found = {}
    for name, body in re.findall(r"octaphon_core_folder\((\w+)(.*?)\)", text, re.S):
        uses = re.search(r"USES((?:\s+[a-z_]+)*)", body)
        found[name] = uses.group(1).split() if uses else []
    return found


def includes(file):
    return re.findall(r'^#include "([^"]+)"', file.read_text(encoding="utf-8"), re.M)


def problems():
    uses = targets()
    allowed = {}
    for name, direct in uses.items():  # those before it are known already; anything else is a circle
        allowed[name] = {name}
        for other in direct:
            if other not in allowed:
                yield f"{name} uses {other}, which stands below it"
            allowed[name] |= allowed.get(other, set())
    for file in sorted(CORE.rglob("*.*")):
        if file.suffix not in (".h", ".cpp"):
            continue
        folder = file.relative_to(CORE).parts[0]
        if folder not in allowed:
            yield f"{folder} is no target"
            continue
        for path in includes(file):
            if "/" in path and path.split("/")[0] in uses and path.split("/")[0] not in allowed[folder]:
                yield f"{file.relative_to(ROOT)} includes {path}, which {folder} may not use"
        if re.search(r"#include <Q|\bstd::cout\b|\bprintf\(", file.read_text(encoding="utf-8")):
            yield f"{file.relative_to(ROOT)} knows Qt or prints"


found = list(problems())
print("\n".join(found) or "includes go one way", file=sys.stderr if found else sys.stdout)
sys.exit(1 if found else 0)
