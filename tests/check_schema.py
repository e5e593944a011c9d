"""check_schema.py SCHEMA FILE…: exit 0 where every file fits the schema and the schema itself is one."""
import json
import sys

import jsonschema

schema = json.load(open(sys.argv[1], encoding="utf-8"))
jsonschema.Draft202012Validator.check_schema(schema)
validator = jsonschema.Draft202012Validator(schema)
wrong = 0
for name in sys.argv[2:]:
    for error in validator.iter_errors(json.load(open(name, encoding="utf-8"))):
        print(f"{name}: {error.json_path}: {error.message}", file=sys.stderr)
        wrong = 1
sys.exit(wrong)
