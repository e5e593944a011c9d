"""tags_by_mutagen.py FILE: the tags of an audio file as the library mutagen reads them, as JSON: comments by name, ID3
frames by their hash key, chapters as [start, end, title]."""
import json
import sys

import mutagen

tags = mutagen.File(sys.argv[1]).tags
found = {}
for name, value in tags.items():
    if name.startswith("CHAP:"):
        found[name] = [value.start_time, value.end_time, str(value.sub_frames["TIT2"])]
    elif hasattr(value, "text"):
        found[name] = str(value.text[0])
    else:
        found[name.upper()] = value[0] if isinstance(value, list) else str(value)
json.dump(found, sys.stdout, ensure_ascii=False)
