"""A one-machine Slurm of its own, for tests/long.py: munged, slurmctld and slurmd with all files in one folder."""
import os
import shutil
import signal
import socket
import subprocess
import time

PROGRAMS = ["munged", "slurmctld", "slurmd", "sbatch", "squeue", "sacct"]

CONFIG = """ClusterName=yard
SlurmctldHost={host}
AuthType=auth/munge
SlurmUser=root
SlurmctldPort={port}
SlurmdPort={next_port}
StateSaveLocation={folder}/state
SlurmdSpoolDir={folder}/spool
SlurmctldPidFile={folder}/slurmctld.pid
SlurmdPidFile={folder}/slurmd.pid
SlurmctldLogFile={folder}/slurmctld.log
SlurmdLogFile={folder}/slurmd.log
ProctrackType=proctrack/linuxproc
TaskPlugin=task/none
JobAcctGatherType=jobacct_gather/none
AccountingStorageType=accounting_storage/none
SelectType=select/cons_tres
SelectTypeParameters=CR_CPU
ReturnToService=2
MpiDefault=none
NodeName={host} CPUs={cpus} State=UNKNOWN
PartitionName=all Nodes={host} Default=YES MaxTime=INFINITE State=UP
"""


def installed():
    path = os.environ.get("PATH", "") + ":/usr/sbin"
    return all(shutil.which(program, path=path) for program in PROGRAMS[:5])


class Slurm:
    """While it is entered, sbatch and squeue find it."""

    def __init__(self, folder):
        self.folder = folder
        self.pids = []

    def __enter__(self):
        for name in ("state", "spool"):
            os.makedirs(f"{self.folder}/{name}", exist_ok=True)
        host = socket.gethostname().split(".")[0]
        config = f"{self.folder}/slurm.conf"
        with open(config, "w", encoding="utf-8") as file:
            file.write(CONFIG.format(host=host, folder=self.folder, port=16817, next_port=16818, cpus=os.cpu_count()))
        self.environment = {**os.environ, "SLURM_CONF": config, "PATH": os.environ["PATH"] + ":/usr/sbin"}
        os.makedirs("/run/munge", exist_ok=True)
        shutil.chown("/run/munge", "munge", "munge")
        subprocess.run(["su", "-s", "/bin/sh", "munge", "-c", "/usr/sbin/munged --force"], check=True,
                       stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        subprocess.run(["slurmctld"], env=self.environment, check=True)
        subprocess.run(["slurmd"], env=self.environment, check=True)
        for _ in range(100):
            found = subprocess.run(["sinfo", "-h", "-o", "%T"], env=self.environment, capture_output=True, text=True)
            if "idle" in found.stdout:
                return self
            time.sleep(0.2)
        self.__exit__()
        raise RuntimeError("slurm does not begin")

    def __exit__(self, *_):
        for name in (f"{self.folder}/slurmd.pid", f"{self.folder}/slurmctld.pid", "/run/munge/munged.pid"):
            try:
                with open(name, encoding="utf-8") as file:
                    os.kill(int(file.read()), signal.SIGTERM)
            except (OSError, ValueError):
                pass

    def wait_for(self, job, seconds=180):
        """True once no job is waiting or running."""
        end = time.time() + seconds
        while time.time() < end:
            left = subprocess.run(["squeue", "-h"], env=self.environment, capture_output=True, text=True).stdout
            if not left.strip():
                return True
            time.sleep(0.3)
        return False
