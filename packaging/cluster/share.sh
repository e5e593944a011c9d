#!/bin/sh
# A step of a delivery that many processes share: share.sh measure|render|merge SESSION [OPTION…]. Of measure and render
# it is one share; under Slurm its number is the array task's, elsewhere SHARE of SHARES.
#SBATCH --job-name=octaphon
set -eu
act=${1:?measure, render or merge}
session=${2:?the session}
shift 2
octaphon=${OCTAPHON:-octaphon-cli}
if [ "$act" = merge ]; then
  "$octaphon" render "$session" --merge "$@"
  exec "$octaphon" status "$session" "$@"
fi
if [ -n "${SLURM_ARRAY_TASK_ID:-}" ]; then
  share=$((SLURM_ARRAY_TASK_ID - ${SLURM_ARRAY_TASK_MIN:-1} + 1))
  shares=$SLURM_ARRAY_TASK_COUNT
else
  share=${SHARE:?the share, from 1}
  shares=${SHARES:?how many there are}
fi
# What measure finds goes into a file for each share.
[ "$act" = measure ] && set -- "$@" --write "${MEASURED:-measured}.$share"
exec "$octaphon" "$act" "$session" --shard "$share/$shares" --jobs "${SLURM_CPUS_PER_TASK:-${JOBS:-1}}" "$@"
