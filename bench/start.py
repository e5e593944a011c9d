"""start.py CLI DEMO-MAKER FOLDER: how long the command line takes from its start to its end where hardly anything is to be done, 40 times
each; beside it a program that prints a line, and Python that reads the session."""
import statistics
import subprocess
import sys
import time

cli, maker, folder = sys.argv[1:4]
subprocess.run([maker, folder], check=True)
session = f"{folder}/Tidewheel.octaphon"
TIMES = 40


def measure(words, *command):
    taken = []
    for _ in range(TIMES):
        begin = time.perf_counter()
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        taken.append(1000 * (time.perf_counter() - begin))
    print(f"{words:52}{statistics.median(taken):8.1f} ms, worst {max(taken):.1f}")


measure("plan of the demo", cli, "plan", session, "--json")
measure("names of its briefs, as completion asks", cli, "briefs", session, "--names")
measure("--version", cli, "--version")
measure("/bin/echo", "/bin/echo")
measure("python3, reading the session", "/usr/bin/python3", "-c", f"import json; json.load(open('{session}'))")
