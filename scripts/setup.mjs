import { spawnSync } from 'node:child_process'
import { existsSync, statSync } from 'node:fs'
import { CHROMIUM, HEADLESS_SHELL } from './browsers.mjs'

/** Runs a command with its output shown; ends the process where it fails. */
export function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { NEXT_TELEMETRY_DISABLED: '1', ...process.env, ...env },
  })
  if (error) throw error
  if (status !== 0) process.exit(status ?? 1)
}

/**
 * Installs the npm packages of the lockfile, unless they are there and as new as it. Not by `npm ci`: that refuses a
 * lockfile made where the registry has no builds for other platforms, which packages with binaries list as optional.
 */
export function ensurePackages() {
  const installed = 'node_modules/.package-lock.json'
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync('package-lock.json').mtimeMs) return
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund'])
  // Where an installer leaves a package's own scripts out, too.
  run('node', ['scripts/build-cli.mjs'])
}

/** Installs packages of Debian's. */
function install(...packages) {
  const root = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...root, 'apt-get', ...args]
    run(command, rest, { DEBIAN_FRONTEND: 'noninteractive' })
  }
  apt('update')
  apt('install', '-y', '--no-install-recommends', ...packages)
}

/** Installs Chromium from Debian's packages where it is missing. */
export function ensureChromium() {
  if (!existsSync(CHROMIUM)) install('chromium', 'fonts-liberation')
}

/** Installs the headless shell of Chromium, which browser tests run in, from Debian's packages where it is missing. */
export function ensureHeadlessShell() {
  if (!existsSync(HEADLESS_SHELL)) install('chromium-headless-shell')
}

/** Programs that look at files by themselves, and Debian's packages of them: a media prober, an identifier of pictures, of WebP. */
const LOOKERS = { ffprobe: 'ffmpeg', identify: 'imagemagick', webpmux: 'webp' }

/** Installs the programs that files are looked at with in tests and benchmarks, where they are missing. */
export function ensureLookers() {
  const missing = Object.keys(LOOKERS).filter((name) => spawnSync('which', [name]).status !== 0)
  if (missing.length > 0) install(...missing.map((name) => LOOKERS[name]))
}

/** Builds the application for production. */
export function build() {
  run('npx', ['next', 'build'])
}
