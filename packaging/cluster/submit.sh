#!/bin/sh
# A delivery as job arrays of Slurm: submit.sh SESSION SHARES [OPTION…]. Tails are measured first, then files are
# made, then the receipts are joined; each step waits for the one before. Prints the number of the last job, whose
# exit says whether all is up to date. Session and folders have to be on a file system that all machines share.
set -eu
session=${1:?the session}
shares=${2:?how many shares}
shift 2
step=$(dirname "$(readlink -f "$0")")/share.sh
export MEASURED="${MEASURED:-$(readlink -f "$session").measured}"
submit() { sbatch --parsable --export=ALL --output="${LOG:-octaphon-%j.log}" "$@"; }
heard=$(submit --array="1-$shares" "$step" measure "$session" "$@")
measured=""
for share in $(seq "$shares"); do measured="$measured --measured $MEASURED.$share"; done
# shellcheck disable=SC2086
made=$(submit --array="1-$shares" --dependency="afterok:$heard" "$step" render "$session" $measured "$@")
submit --dependency="afterany:$made" "$step" merge "$session" "$@"
