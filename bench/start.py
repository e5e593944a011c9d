"""start.py CLI DEMO-MAKER FOLDER [PROGRAM]: how long the command line takes from its start to its end where hardly anything is to be done, 40 times
each; beside it a program that prints a line, and Python that reads the session.
With PROGRAM also the window, under Xvfb: from its start until the demo is all there, as its log says."""
import os
import statistics
import subprocess
import sys
import time

cli, maker, folder = sys.argv[1:4]
program = sys.argv[4] if len(sys.argv) > 4 else None
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


def measure_window():
    taken = []
    for turn in range(7):
        state = f"{folder}/state-{turn}"
        log = state + "/log.txt"
        environment = dict(os.environ, OCTAPHON_STATE=state, QT_QPA_PLATFORM="xcb")
        begin = time.perf_counter()
        window = subprocess.Popen([program, "--separate", session], env=environment, stderr=subprocess.DEVNULL)
        while not (os.path.exists(log) and "first full picture" in open(log).read()):
            time.sleep(0.002)
            if time.perf_counter() - begin > 60:
                sys.exit("the window did not come")
        taken.append(1000 * (time.perf_counter() - begin))
        window.kill()
        window.wait()
    print(f"{'the window with the demo, first start':52}{taken[0]:8.1f} ms")
    print(f"{'again':52}{statistics.median(taken[1:]):8.1f} ms, worst {max(taken[1:]):.1f}")


if program:
    measure_window()  # start.py itself runs under xvfb-run
