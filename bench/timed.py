"""What a command takes."""
import os
import resource
import shutil
import subprocess
import time


def timed(command, out):
    """Wall clock and processor time, in seconds, of a command that writes into the folder `out`, which is emptied before."""
    shutil.rmtree(out, ignore_errors=True)
    os.makedirs(out)
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    begin = time.monotonic()
    subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
    wall = time.monotonic() - begin
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    return wall, after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
