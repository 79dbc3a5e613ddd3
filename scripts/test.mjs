import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { build, ensureChromium, ensureHeadlessShell, ensureLookers, ensurePackages, run } from './setup.mjs'

/** Everything there is to check, on a fresh clone too: `npm test`. */
const step = (title) => process.stdout.write(`\n— ${title}\n`)
const RESULTS = 'test-results'

step('packages, browser, and programs that look at files')
ensurePackages()
ensureChromium()
ensureHeadlessShell()
ensureLookers()
mkdirSync(RESULTS, { recursive: true })

step('lint: style, import directions, how the code reads, what nothing uses')
run('npm', ['run', '--silent', 'lint'])
step('build')
build()
step('types')
run('node', ['scripts/types.mjs'])

step('unit, property and pixel tests')
const unit = spawnSync(
  'npx',
  ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${RESULTS}/unit.json`],
  { stdio: 'inherit' },
)
step('browser tests')
const browser = spawnSync('npx', ['playwright', 'test'], { stdio: 'inherit' })

const units = JSON.parse(readFileSync(`${RESULTS}/unit.json`, 'utf8'))
const browsers = JSON.parse(readFileSync(`${RESULTS}/browser.json`, 'utf8')).stats
const passed = units.numPassedTests + browsers.expected + browsers.flaky
const failed = units.numFailedTests + browsers.unexpected
const names = units.testResults.flatMap(({ name, message, assertionResults }) => {
  const broken = assertionResults.filter(({ status }) => status === 'failed')
  // A file that cannot even be read has no tests that fail, only words.
  if (broken.length === 0) return message ? [`${name}: ${message.slice(0, 1000)}`] : []
  return broken.map(({ fullName, failureMessages }) => `${name}: ${fullName}\n${failureMessages[0]?.slice(0, 1000)}`)
})
// Said again at the end, since what the browser tests print is long.
for (const name of names) process.stdout.write(`\nfailed: ${name}\n`)
process.stdout.write(`\ntests: ${passed} passed, ${failed} failed\n`)
process.exit(unit.status === 0 && browser.status === 0 ? 0 : 1)
