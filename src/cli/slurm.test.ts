import { spawnSync } from 'node:child_process'
import { chmod, mkdir, mkdtemp, readFile, realpath, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

/** Runs what it is told to wrap, as a node does: by a shell, in the environment that it was given. */
const SBATCH = `#!/usr/bin/env bash
while [ $# -gt 0 ]; do if [ "$1" = --wrap ]; then sh -c "$2" >&2; fi; shift; done
echo 7
`
/** Notes what it was called with. */
const CYCLON = `#!/usr/bin/env node
require('node:fs').appendFileSync(process.env.NOTED, JSON.stringify({ args: process.argv.slice(2), cwd: process.cwd() }) + '\\n')
`
let folder = ''
const at = (...names: string[]) => join(folder, ...names)

beforeAll(async () => {
  folder = await realpath(await mkdtemp(join(tmpdir(), 'cyclon-slurm-')))
  await mkdir(at('bin'))
  for (const [name, text] of Object.entries({ sbatch: SBATCH, cyclon: CYCLON })) {
    await writeFile(at('bin', name), text)
    await chmod(at('bin', name), 0o755)
  }
})
afterAll(() => rm(folder, { recursive: true }))

describe('the job file for Slurm', () => {
  it.each([
    'plain',
    'with spaces',
    "the pier's",
    'a "quoted" name',
    '-leading dash',
    'two\nlines',
    'ends in a line\n',
    '$(touch here) `touch here` ; touch here &',
    'back\\slash, comma',
  ])('does the plan of a folder that is called %j', async (name) => {
    await mkdir(at(name), { recursive: true })
    await writeFile(at(name, 'plan.json'), JSON.stringify({ tasks: [1, 2, 3] }))
    const noted = at(`noted-${Buffer.from(name).toString('hex')}`)
    const env = { ...process.env, PATH: `${at('bin')}:${process.env.PATH}`, CYCLON: 'cyclon', NOTED: noted }
    const script = join(process.cwd(), 'cluster', 'slurm.sh')
    const { status, stdout, stderr } = spawnSync('bash', [script, join(name, 'plan.json')], {
      cwd: folder,
      env,
      encoding: 'utf8',
    })
    expect([status, stderr]).toEqual([0, ''])
    expect(stdout).toContain('0 to 2')
    const calls = (await readFile(noted, 'utf8'))
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    expect(calls).toEqual(['work', 'join'].map((what) => ({ args: [what, at(name, 'plan.json')], cwd: at(name) })))
  })
})
