"""check_json.py SCHEMA FILE: exit 0 where every line of the file is JSON that fits the schema; it has one at least."""
import json
import sys

import jsonschema

schema = json.load(open(sys.argv[1], encoding="utf-8"))
jsonschema.Draft202012Validator.check_schema(schema)
validator = jsonschema.Draft202012Validator(schema)
lines = [line for line in open(sys.argv[2], encoding="utf-8") if line.strip()]
wrong = 0 if lines else 1
for line in lines:
    for error in validator.iter_errors(json.loads(line)):
        best = jsonschema.exceptions.best_match([error])
        print(f"{line[:200]}: {best.json_path}: {best.message[:300]}", file=sys.stderr)
        wrong = 1
sys.exit(wrong)
