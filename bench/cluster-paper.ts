/**
 * Time on a cluster, on paper: `npx tsx bench/cluster-paper.ts START FRAME JOIN FILE` with the seconds measured by
 * `bench/cluster.sh`: starting a task; drawing, writing and proving a frame; joining a frame of a file in pieces; and
 * checking a whole file in the join. Tasks are handed out one after the other, as schedulers do.
 */
const [start = 0.5, frame = 0.25, join = 0.04, file = 0.002] = process.argv.slice(2).map(Number)
/** Tasks that a scheduler hands out per second: an assumption, of the order that administrators of Slurm plan for. */
const HANDED = 50
/** Frames that whoever does a piece draws besides: the one before it, and the first two. */
const BESIDES = 3

/** End of the last of `tasks` equal tasks on `workers` workers, s. */
function spanOf(tasks: number, workers: number, seconds: number): number {
  const free = Array.from({ length: Math.min(workers, tasks) }, () => 0)
  let last = 0
  for (let task = 0; task < tasks; task++) {
    // The worker that has been free longest is at the head: all tasks last as long.
    const at = task % free.length
    const begins = Math.max(free[at] as number, task / HANDED)
    free[at] = begins + start + seconds
    last = Math.max(last, free[at] as number)
  }
  return last
}

const say = (cells: readonly (string | number)[]) => process.stdout.write(`| ${cells.join(' | ')} |\n`)
const time = (seconds: number) => (seconds < 600 ? `${seconds.toFixed(0)} s` : `${(seconds / 60).toFixed(0)} min`)

say(['what', 'workers', 'tasks', 'rendered in', 'joined in', 'against one worker'])
say(['---', '--:', '--:', '--:', '--:', '--:'])
// Many small files: 60 frames each, whole ones.
for (const workers of [1, 10, 100, 500, 2000]) {
  const files = 10_000
  const one = files * (start + 60 * frame) + files * file
  const rendered = spanOf(files, workers, 60 * frame)
  say([
    '10,000 files of 60 frames, a task each',
    workers,
    files,
    time(rendered),
    time(files * file),
    `${(one / (rendered + files * file)).toFixed(0)} ×`,
  ])
}
// One long loop in pieces: it is joined by one.
for (const workers of [1, 2, 5, 10, 50, 500]) {
  const frames = 10_000
  const one = start + frames * frame
  const rendered = spanOf(workers, workers, (frames / workers + (workers > 1 ? BESIDES : 0)) * frame)
  say([
    'one loop of 10,000 frames',
    workers,
    workers,
    time(rendered),
    time(frames * join),
    `${(one / (rendered + (workers > 1 ? frames * join : 0))).toFixed(1)} ×`,
  ])
}
