"""make_font.py IN OUT NAME: a copy of an Inter file whose plain digits have equal widths, under a family name of our own.

Qt 6.4 cannot ask a font for its tabular figures, so they take the place of the others here. The Open Font License wants
another name for a changed font.
"""
import sys

from fontTools.ttLib import TTFont

source, target, family = sys.argv[1:4]
font = TTFont(source, recalcTimestamp=False)  # the same bytes whenever it is made
gsub = font["GSUB"].table
record = next(r for r in gsub.FeatureList.FeatureRecord if r.FeatureTag == "tnum")
tabular = {}
for index in record.Feature.LookupListIndex:
    for subtable in gsub.LookupList.Lookup[index].SubTable:
        tabular.update(getattr(subtable, "ExtSubTable", subtable).mapping)
for table in font["cmap"].tables:
    for code, glyph in list(table.cmap.items()):
        if chr(code) in "0123456789" and glyph in tabular:
            table.cmap[code] = tabular[glyph]
style = font["name"].getDebugName(17) or font["name"].getDebugName(2)
for name in list(font["name"].names):
    if name.nameID in (1, 16):
        name.string = family
    elif name.nameID == 4:
        name.string = f"{family} {style}"
    elif name.nameID == 6:
        name.string = f"{family}-{style}".replace(" ", "")
    elif name.nameID in (3, 17, 21, 22):
        font["name"].removeNames(name.nameID)
# One family with weights of its own: the style groups of the original would hide the semi-bold one.
for name in font["name"].names:
    if name.nameID == 2:
        name.string = style
font["CFF "].cff.fontNames = [f"{family}-{style}".replace(" ", "")]
font["CFF "].cff[0].FamilyName = family
font.save(target)
