#!/usr/bin/env bash
# Tries plans on a real scheduler: Slurm from Debian's packages, as two nodes of one core on this machine. Run as root, in a
# checkout in which `npm ci` has run: `bench/cluster.sh [variants]`. YES=1 does not ask before it installs. Says how long
# two nodes take against one core, kills a task and a node in the middle, and compares every file with that of one process.
set -euo pipefail
cd "$(dirname "$0")/.."
root=$PWD
variants=${1:-64}
cyclon="node $root/bin/cyclon.mjs"
folder=$(mktemp -d)
say() { printf '%s\n' "$*"; }

if ! command -v slurmctld >/dev/null || ! command -v slurmd >/dev/null || ! command -v munged >/dev/null; then
  if [ "${YES:-}" != 1 ]; then
    read -r -p 'Install slurmctld, slurmd, slurm-client and munge from Debian? [y/N] ' answer
    [ "$answer" = y ] || exit 1
  fi
  DEBIAN_FRONTEND=noninteractive apt-get install -y -qq slurmctld slurmd slurm-client munge >/dev/null
fi

# Two nodes on ports of their own; no accounting, no cgroups.
host=$(hostname -s)
export SLURM_CONF=$folder/slurm.conf
mkdir -p "$folder/state" "$folder/spool1" "$folder/spool2" /run/munge
cat > "$SLURM_CONF" <<CONF
ClusterName=quay
SlurmctldHost=$host
SlurmUser=root
SlurmdUser=root
AuthType=auth/munge
ProctrackType=proctrack/linuxproc
TaskPlugin=task/none
SelectType=select/cons_tres
SelectTypeParameters=CR_Core
SchedulerParameters=sched_interval=1,batch_sched_delay=0
StateSaveLocation=$folder/state
SlurmdSpoolDir=$folder/spool-%n
SlurmctldPidFile=$folder/slurmctld.pid
SlurmdPidFile=$folder/slurmd-%n.pid
SlurmctldLogFile=$folder/slurmctld.log
SlurmdLogFile=$folder/slurmd-%n.log
SlurmdTimeout=20
ReturnToService=2
KillWait=2
MinJobAge=3600
NodeName=n1 NodeHostname=$host Port=17001 CPUs=1 State=UNKNOWN
NodeName=n2 NodeHostname=$host Port=17002 CPUs=1 State=UNKNOWN
PartitionName=all Nodes=n1,n2 Default=YES MaxTime=INFINITE State=UP
CONF
started=()
end() {
  for name in slurmctld slurmd; do pkill -f "$name.*$folder" 2>/dev/null || true; done
  pkill -x slurmctld 2>/dev/null || true
  pkill -x slurmd 2>/dev/null || true
  [ "${KEEP:-}" = 1 ] || rm -rf "$folder"
}
trap end EXIT
if ! pgrep -x munged >/dev/null; then
  [ -f /etc/munge/munge.key ] || mungekey --create
  chown munge: /run/munge /etc/munge/munge.key 2>/dev/null || true
  runuser -u munge -- munged || munged --force
fi
node_start() { slurmd -N "$1"; }
slurmctld
node_start n1
node_start n2
for _ in $(seq 60); do [ "$(sinfo -h -o %D -t idle)" = 2 ] && break; sleep 0.5; done
sinfo -h -o '%D nodes %t, %c core each'

# So many variants of a loader, and one long loop.
for i in $(seq 0 $((variants - 1))); do
  node -e 'const [from, to, id, hue] = process.argv.slice(1); const loop = JSON.parse(fs.readFileSync(from)); fs.writeFileSync(to, JSON.stringify({ ...loop, id, background: `hsl(${hue} 60% 12%)` }))' \
    demo/loops/beacon-loader.cyclon.json "$folder/lamp-$i.cyclon.json" "lamp-$i" "$((360 * i / variants))"
done
cp demo/loops/pier-sheet.cyclon.json "$folder/sheet.cyclon.json"
cd "$folder"
now() { date +%s.%N; }
ratio() { awk -v a="$1" -v b="$2" 'BEGIN { printf "%.2f", a / b }'; }
spent() { awk -v a="$1" -v b="$2" 'BEGIN { printf "%.1f", b - a }'; }
submit() { CYCLON="$cyclon" "$root/cluster/slurm.sh" "$1" | tee submitted | tail -1 >&2; }
jobs_of() { sed -E 's/.*job ([0-9]+), .* job ([0-9]+)/\1 \2/' submitted; }
settle() { while [ -n "$(squeue -h)" ]; do sleep 0.2; done; }

small() { echo "--formats webp --scale 0.25"; }
long() { echo "--formats apng --scale 1"; }
for example in small long; do
  if [ $example = small ]; then loops="lamp-*.cyclon.json"; tasks=2; else loops="sheet.cyclon.json"; tasks=2; fi
  mkdir -p "$example/one" "$example/two"
  begin=$(now)
  # Deliberately one core: what one node has.
  taskset -c 0 $cyclon render "$loops" -o "$example/one/{name}.{format}" $($example) --cores 1 --manifest "$example/one.json" >/dev/null
  one=$(spent "$begin" "$(now)")
  begin=$(now)
  $cyclon plan "$loops" -o "$example/two/{name}.{format}" $($example) --tasks $tasks > "$example.json"
  planned=$(spent "$begin" "$(now)")
  submit "$example.json"
  settle
  two=$(spent "$begin" "$(now)")
  for file in "$example"/one/*; do cmp "$file" "$example/two/$(basename "$file")"; done
  rm -rf "$example/two" cyclon-done/file-*.json
  [ $example = small ] || { begin=$(now); $cyclon join "$example.json" >/dev/null; say "$example: join $(spent "$begin" "$(now)") s, of rendering at once $(ratio "$(spent "$begin" "$(now)")" "$one")"; }
  say "$example: one core $one s; two nodes $two s, of which planning $planned s; ratio $(ratio "$two" "$one"); the same files"
  rm -rf "$example/two" cyclon-done
done

# A task is killed in its middle, and a node.
$cyclon plan 'lamp-*.cyclon.json' sheet.cyclon.json -o 'kept/{name}.{format}' --formats apng --scale 0.5 --tasks 8 > kept.json
submit kept.json
sleep 6
pkill -9 -f -o 'cyclon.mjs work' && say 'killed a task'
sleep 3
pkill -9 -f 'slurmd -N n2' || true
pkill -9 -f slurmstepd || true
say 'killed node n2 and what ran'
sleep 25
node_start n2
settle
say "after that: $($cyclon join kept.json | tail -1)"
submit kept.json
settle
say "submitted once more: $($cyclon join kept.json | tail -1)"
mkdir -p at-once
$cyclon render 'lamp-*.cyclon.json' sheet.cyclon.json -o 'at-once/{name}.{format}' --formats apng --scale 0.5 >/dev/null
for file in at-once/*.apng; do cmp "$file" "kept/$(basename "$file")"; done
[ -z "$(find . -name '*.unfinished' -o -name '*unproven*')" ] && say 'nothing half done was left where it counts' || say 'left over: '"$(find . -name '*.unfinished' -o -name '*unproven*' | wc -l) unfinished files of what was killed"
say 'every file is the one of one process, to the byte'
