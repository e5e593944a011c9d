"""note_pictures.py FOLDER OUT: a picture of the delivery note that lies in a folder, by Chromium, where that is there."""
import os
import shutil
import subprocess
import sys

folder, out = map(os.path.abspath, sys.argv[1:])
if shutil.which("chromium"):
    subprocess.run(["chromium", "--headless=new", "--no-sandbox", "--disable-gpu", "--hide-scrollbars", "--window-size=1000,800",
                    f"--screenshot={out}/note.png", f"file://{folder}/delivery-note.html"],
                   check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
