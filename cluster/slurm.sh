#!/usr/bin/env bash
# Does a plan on Slurm: an array of one job for each task, and what puts their work together when all have ended.
#
#   npx cyclon plan 'loops/*.cyclon.json' -o 'out/{name}-{width}.{format}' --formats gif,webp --tasks 64 > plan.json
#   cluster/slurm.sh plan.json
#
# The folder of the plan must be one that all nodes see. A task that has failed is done again by submitting once more:
# what is done already is left alone. What the join says stands in cyclon-join-*.log; it names what is missing.
set -euo pipefail
# Names may hold anything: they go to the nodes in the environment, and not through a shell.
plan=$(realpath -- "$1")
export CYCLON_PLAN=$plan
# How the command line is called on the nodes; and more options for sbatch, such as SBATCH_PARTITION, from the environment.
cyclon=${CYCLON:-npx cyclon}
last=$(node -p 'JSON.parse(require("fs").readFileSync(process.argv[1], "utf8")).tasks.length - 1' "$plan")
cd -- "${plan%/*}"
# Every task takes one core; it finds its number in SLURM_ARRAY_TASK_ID.
array=$(sbatch --parsable --job-name=cyclon --array="0-$last" --cpus-per-task=1 --requeue \
  --output='cyclon-%A-%a.log' --export=ALL --wrap "$cyclon work \"\$CYCLON_PLAN\"")
join=$(sbatch --parsable --job-name=cyclon-join --dependency="afterany:$array" --cpus-per-task=1 \
  --output='cyclon-join-%j.log' --export=ALL --wrap "$cyclon join \"\$CYCLON_PLAN\"")
echo "tasks: job $array, 0 to $last; join: job $join"
