import { globSync } from 'tinyglobby'
import ts from 'typescript'

/**
 * Checks the types of the whole tree, run by `npm run types`. A folder with a `tsconfig.json` of its own holds kernels: it
 * is checked under that configuration, in which reading a typed array gives a number. All other files are checked
 * under the one of the root, in which any indexed access may give `undefined`.
 */
const KERNELS = globSync('src/**/tsconfig.json').map((path) => path.replace(/tsconfig\.json$/, ''))
const host = { ...ts.sys, onUnRecoverableConfigFileDiagnostic: (problem) => report([problem]) }

function report(problems) {
  const format = {
    getCurrentDirectory: ts.sys.getCurrentDirectory,
    getCanonicalFileName: (name) => name,
    getNewLine: () => '\n',
  }
  process.stderr.write(ts.formatDiagnosticsWithColorAndContext(problems, format))
}

const root = `${ts.sys.getCurrentDirectory()}/`
const relativeTo = (file) => (file.startsWith(root) ? file.slice(root.length) : file)
const inKernels = (file) => KERNELS.some((folder) => relativeTo(file).startsWith(folder))
const parsed = (config) => ts.getParsedCommandLineOfConfigFile(config, {}, host)

/** The problems of those files of a program that `concerns` names. */
function problemsOf(fileNames, options, concerns) {
  const program = ts.createProgram(fileNames, { ...options, noEmit: true, incremental: false })
  const files = program.getSourceFiles().filter(({ fileName }) => concerns(fileName))
  return [
    ...program.getOptionsDiagnostics(),
    ...program.getGlobalDiagnostics(),
    ...files.flatMap((file) => [...program.getSyntacticDiagnostics(file), ...program.getSemanticDiagnostics(file)]),
  ]
}

const whole = parsed('tsconfig.json')
const kernels = KERNELS.map((folder) => parsed(`${folder}tsconfig.json`))
const problems = [
  ...[whole, ...kernels].flatMap(({ errors }) => errors),
  ...problemsOf(whole.fileNames, whole.options, (file) => !inKernels(file)),
  ...problemsOf(
    kernels.flatMap(({ fileNames }) => fileNames),
    kernels[0].options,
    inKernels,
  ),
]
report(problems)
if (problems.length > 0) process.exitCode = 1
