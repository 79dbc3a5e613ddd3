import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import ts from 'typescript'

/**
 * Checks that imports point downwards only, and that no files import each other in a circle; run by `npm run lint`.
 * What stands further down a list may import what stands above it, and never the other way.
 */
const FLOORS = ['core', 'offline', 'codecs', 'render', 'workers', 'store', 'studio', 'app']
/** Beside the floors: what it may import. */
const BESIDE = { cli: ['core', 'codecs', 'render', 'workers', 'cli'], render: ['core', 'render'], 'proxy.ts': ['app'] }
/** The rooms of the core, from the ground up; those of one line may not import each other. */
const ROOMS = [
  ['bounds', 'id', 'modulo', 'random', 'base64', 'smoothstep', 'statistics'],
  ['schemas'],
  ['clock', 'colour', 'path'],
  ['image', 'text', 'motion'],
  ['texture', 'solid'],
  ['effects'],
  ['display', 'fit', 'media'],
  ['layers'],
  ['document'],
  ['evaluate'],
  ['closing'],
  ['edit'],
  ['seam', 'svg', 'output'],
  ['footage'],
]
/** The rooms of footage, by the same rule. */
const FOOTAGE_ROOMS = [['look'], ['steady', 'find'], ['regions'], ['mends']]
/** The rooms of the workers: what each of them may import of the others. Nothing runs on a page and inside of a worker but what is shared. */
const WORKER_ROOMS = { shared: ['shared'], inside: ['inside', 'shared'], page: ['page', 'shared'] }
/** Globals that a worker has not. */
const OF_THE_PAGE = ['document', 'window', 'localStorage']
const ROOT = process.cwd()
/** Packages that a floor has nothing to do with: the interface, the state, the system. */
const INTERFACE = /^(react|react-dom|next|zustand|zundo)(\/|$)/
const SYSTEM = /^node:/
const FORBIDDEN = {
  core: [INTERFACE, SYSTEM, /^(comlink|localforage|mediabunny)(\/|$)/],
  offline: [INTERFACE, SYSTEM],
  codecs: [INTERFACE, SYSTEM],
  render: [INTERFACE],
  workers: [INTERFACE, SYSTEM],
  store: [/^(react-dom|next)(\/|$)/, SYSTEM],
  studio: [SYSTEM],
}

const files = []
const walk = (folder) => {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) walk(path)
    else if (/\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) && !/\.d\.ts$/.test(name)) files.push(path)
  }
}
walk('src')

const found = (path) =>
  [path, `${path}.ts`, `${path}.tsx`, `${path}/index.ts`, `${path}/index.tsx`].find(
    (each) => existsSync(each) && statSync(each).isFile(),
  )
/** The files of the project that a file imports, in whatever way; others as they are named. */
function importsOf(file) {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true)
  const own = new Set()
  const values = new Set()
  const others = new Set()
  const add = (specifier, isType = false) => {
    const base = specifier.startsWith('@/')
      ? join(ROOT, 'src', specifier.slice(2))
      : specifier.startsWith('.')
        ? resolve(dirname(file), specifier)
        : null
    const target = base && found(base)
    if (target) own.add(relative(ROOT, target))
    if (target && !isType) values.add(relative(ROOT, target))
    if (!base) others.add(specifier)
  }
  const visit = (node) => {
    if ((ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) && node.moduleSpecifier)
      add(node.moduleSpecifier.text, isOfTypes(node))
    else if (ts.isImportTypeNode(node) && ts.isLiteralTypeNode(node.argument)) add(node.argument.literal.text, true)
    else if (
      ts.isCallExpression(node) &&
      node.expression.kind === ts.SyntaxKind.ImportKeyword &&
      ts.isStringLiteral(node.arguments[0])
    )
      add(node.arguments[0].text)
    ts.forEachChild(node, visit)
  }
  visit(source)
  return { own: [...own], values: [...values], others: [...others], globals: pageGlobalsOf(source) }
}

/** Whether an import or export is of types alone. */
function isOfTypes(node) {
  if (ts.isExportDeclaration(node)) return node.isTypeOnly
  const clause = node.importClause
  const names = clause?.namedBindings && ts.isNamedImports(clause.namedBindings) ? clause.namedBindings.elements : []
  return clause?.isTypeOnly || (names.length > 0 && !clause.name && names.every(({ isTypeOnly }) => isTypeOnly))
}

/** The globals of a page that a file uses: names that it declares nowhere itself. */
function pageGlobalsOf(source) {
  const used = new Set()
  const declared = new Set()
  const visit = (node) => {
    if (ts.isIdentifier(node) && OF_THE_PAGE.includes(node.text)) {
      const { parent } = node
      const isMember =
        (ts.isPropertyAccessExpression(parent) && parent.name === node) ||
        ((ts.isPropertyAssignment(parent) || ts.isPropertySignature(parent)) && parent.name === node)
      const isDeclared = parent.name === node && !isMember && !ts.isShorthandPropertyAssignment(parent)
      if (isDeclared) declared.add(node.text)
      else if (!isMember) used.add(node.text)
    }
    ts.forEachChild(node, visit)
  }
  visit(source)
  return [...used].filter((name) => !declared.has(name))
}

const graph = new Map(files.map((file) => [file, importsOf(file)]))
const problems = []
const floorOf = (file) => file.split('/')[1]
const roomOf = (file) => file.split('/')[2]?.replace(/\.tsx?$/, '')
const levelOf = (file) => ROOMS.findIndex((rooms) => rooms.includes(roomOf(file)))
const innerRoomOf = (file) => file.split('/')[3]
const footageLevelOf = (file) => FOOTAGE_ROOMS.findIndex((rooms) => rooms.includes(innerRoomOf(file)))

for (const [file, { own, others }] of graph) {
  const floor = floorOf(file)
  const inCore = floor === 'core' && roomOf(file) !== 'testing'
  const inFootage = inCore && roomOf(file) === 'footage' && innerRoomOf(file) !== 'index.ts'
  if (inFootage && footageLevelOf(file) < 0) problems.push(`${file} stands in no room of footage`)
  if (inCore && levelOf(file) < 0) problems.push(`${file}: the room ${roomOf(file)} stands on no floor of the core`)
  for (const other of others)
    if (roomOf(file) !== 'testing' && FORBIDDEN[floor]?.some((pattern) => pattern.test(other)))
      problems.push(`${file} imports ${other}, which ${floor} has nothing to do with`)
  for (const target of own) {
    const to = floorOf(target)
    const allowed = BESIDE[floor] ?? FLOORS.slice(0, FLOORS.indexOf(floor) + 1)
    if (!allowed.includes(to)) problems.push(`${file} imports ${target}: ${floor} may not import ${to}`)
    if (inFootage && roomOf(target) === 'footage' && innerRoomOf(target) !== innerRoomOf(file))
      if (footageLevelOf(target) >= footageLevelOf(file) || footageLevelOf(target) < 0)
        problems.push(`${file} imports ${target}: ${innerRoomOf(target)} does not lie below ${innerRoomOf(file)}`)
    if (!inCore || to !== 'core' || roomOf(file) === roomOf(target)) continue
    if (roomOf(target) === 'testing') problems.push(`${file} imports ${target}, which is for tests`)
    else if (levelOf(target) >= levelOf(file))
      problems.push(`${file} imports ${target}: ${roomOf(target)} does not lie below ${roomOf(file)}`)
  }
}

/** Circles of files, each told once (Tarjan 1972). */
function circles() {
  const index = new Map()
  const low = new Map()
  const stack = []
  const rings = []
  const connect = (file) => {
    index.set(file, index.size)
    low.set(file, index.get(file))
    stack.push(file)
    for (const target of graph.get(file)?.own ?? []) {
      if (!graph.has(target)) continue
      if (!index.has(target)) {
        connect(target)
        low.set(file, Math.min(low.get(file), low.get(target)))
      } else if (stack.includes(target)) low.set(file, Math.min(low.get(file), index.get(target)))
    }
    if (low.get(file) !== index.get(file)) return
    const ring = stack.splice(stack.indexOf(file))
    if (ring.length > 1) rings.push(ring)
  }
  for (const file of graph.keys()) if (!index.has(file)) connect(file)
  return rings
}
/** All files whose code runs where a file's does. */
function reachedFrom(start) {
  const reached = new Set()
  const waiting = [...start]
  while (waiting.length > 0) {
    const file = waiting.pop()
    if (reached.has(file)) continue
    reached.add(file)
    waiting.push(...(graph.get(file)?.values ?? []))
  }
  return reached
}
const entries = files.filter((file) => file.endsWith('.worker.ts'))
for (const file of reachedFrom(entries))
  for (const name of graph.get(file)?.globals ?? [])
    problems.push(`${file} runs inside of a worker, which has no ${name}`)
for (const file of files.filter((each) => floorOf(each) === 'workers')) {
  const room = roomOf(file)
  const allowed = WORKER_ROOMS[room]
  if (!allowed) problems.push(`${file} stands in no room of the workers`)
  for (const target of graph.get(file).values)
    if (floorOf(target) === 'workers' && allowed && !allowed.includes(roomOf(target)))
      problems.push(`${file} imports ${target}: code of ${roomOf(target)} does not run in ${room}`)
}
for (const ring of circles()) problems.push(`these import each other in a circle: ${ring.sort().join(', ')}`)

for (const problem of problems) process.stderr.write(`${problem}\n`)
if (problems.length > 0) process.exitCode = 1
