"""note.py CLI FOLDER: a delivery of 500 files of 4 s, read back and put into a note as page and PDF, lists and checksums; how long
that takes, and how large they come out. Beside it what a script would take for checksums and loudness alone."""
import os
import shutil
import sys

from pink import best_of_three, deliver, session_of_noise

cli, folder = sys.argv[1], os.path.abspath(sys.argv[2])
REGIONS, LENGTH, TRACKS = 125, 192000, 3
out = f"{folder}/out"
session, root = session_of_noise(cli, folder, "note", TRACKS, REGIONS * LENGTH / 48000)
names = ("Winch/Start", "Glocke über dem Fluß", "時計台", "ميناء")
root["regions"] = [{"id": f"r{i}", "name": f"{names[i % 4]} {i:03d}", "start": i * LENGTH, "length": LENGTH} for i in range(REGIONS)]
root["briefs"] = [{"id": "b", "name": "All", "folder": "out", "template": "{region}_{source}", "regions": "all", "tracks": "all",
                   "mix": True, "existing": "replace", "counts": "everything-heard"}]
deliver(cli, session, root, out)


def report(*options):
    """`report` with each of these lists into a file of its name."""
    return [cli, "report", out] + [word for option in options for word in (f"--{option}", f"{folder}/note.{option}")]


best_of_three("note as a page", report("html"))
best_of_three("note as PDF", report("pdf"))
best_of_three("page, PDF, lists, checksums, manifest at once", report("html", "pdf", "json", "csv", "sums", "manifest"))
best_of_three("sha256sum alone, on all cores", f"find {out} -name '*.wav' -print0 | xargs -0 -P $(nproc) -n 20 sha256sum")
best_of_three("ffmpeg, loudness and true peak alone, on all cores",
              f"find {out} -name '*.wav' -print0 | xargs -0 -P $(nproc) -n 1 -I F ffmpeg -nostdin -i F -af ebur128=peak=true -f null -")
for option in ("html", "pdf", "json"):
    print(f"note.{option}: {os.path.getsize(f'{folder}/note.{option}') / 1e6:.2f} MB")
shutil.rmtree(folder)
