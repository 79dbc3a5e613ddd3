import { readFileSync, writeFileSync } from 'node:fs'
import { globSync } from 'tinyglobby'
import ts from 'typescript'

/**
 * Counts what makes the code hard to read, and fails if a count rises above the one in `reading.json`; run by
 * `npm run lint`. `node scripts/reading.mjs --list` names each place; `--keep` takes lower counts over.
 */
const LIMITS = new URL('reading.json', import.meta.url)
const MAX_LINES = 60
const DIALECT = /\bso (many|much|long|few|often|far)\b/i
const FIRST_WORD = /^(so|what)\b/i
/** Names that the framework gives to the exports of a route. */
const ROUTE_EXPORTS = new Set(['GET', 'HEAD', 'POST', 'dynamic'])
const isTest = (file) => /\.(test|spec)\.tsx?$/.test(file)

const places = {
  'comments in dialect': [],
  'comments that begin with “So” or “What”': [],
  'values packed into one line': [],
  'conditions three deep or more': [],
  'casts to number': [],
  'long functions of core, codecs and cli': [],
  'exported names that are defined twice': [],
}
const note = (kind, sourceFile, node, words = '') => {
  const { line } = sourceFile.getLineAndCharacterOfPosition(node.getStart?.() ?? node.pos)
  places[kind].push(`${sourceFile.fileName}:${line + 1} ${words}`.trim())
}

/** Comments of a file, each once. */
function commentsOf(sourceFile) {
  const found = new Map()
  const { text } = sourceFile
  const visit = (node) => {
    const before = ts.getLeadingCommentRanges(text, node.getFullStart()) ?? []
    const behind = ts.getTrailingCommentRanges(text, node.getEnd()) ?? []
    for (const range of [...before, ...behind]) found.set(range.pos, range)
    ts.forEachChild(node, visit)
  }
  visit(sourceFile)
  return [...found.values()]
}

function countComments(sourceFile) {
  for (const range of commentsOf(sourceFile)) {
    const words = sourceFile.text.slice(range.pos, range.end).replace(/^[/*\s]+/, '')
    if (DIALECT.test(words)) note('comments in dialect', sourceFile, range)
    if (FIRST_WORD.test(words)) note('comments that begin with “So” or “What”', sourceFile, range)
  }
}

/** How many conditional expressions stand in one another. */
function depthOf(node) {
  if (ts.isParenthesizedExpression(node)) return depthOf(node.expression)
  if (!ts.isConditionalExpression(node)) return 0
  return 1 + Math.max(depthOf(node.condition), depthOf(node.whenTrue), depthOf(node.whenFalse))
}

/** True for `[a, b] = [x, y]`, unless both sides name the same places: that is a swap. */
function isPacked(node) {
  const [left, right] = ts.isVariableDeclaration(node)
    ? [node.name, node.initializer]
    : ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.EqualsToken
      ? [node.left, node.right]
      : []
  if (!left || !right || !ts.isArrayLiteralExpression(right)) return false
  if (ts.isArrayBindingPattern(left)) return !right.elements.some(ts.isSpreadElement)
  if (!ts.isArrayLiteralExpression(left)) return false
  const namesOf = ({ elements }) =>
    elements
      .map((element) => (ts.isAsExpression(element) ? element.expression : element).getText())
      .sort()
      .join()
  return namesOf(left) !== namesOf(right)
}

function countCode(sourceFile) {
  const { fileName } = sourceFile
  const lineOf = (position) => sourceFile.getLineAndCharacterOfPosition(position).line
  const visit = (node, inCondition) => {
    if (ts.isAsExpression(node) && node.type.kind === ts.SyntaxKind.NumberKeyword)
      note('casts to number', sourceFile, node)
    if (isPacked(node)) note('values packed into one line', sourceFile, node)
    if (!inCondition && depthOf(node) >= 3) note('conditions three deep or more', sourceFile, node)
    if (ts.isFunctionLike(node) && node.body && /^src\/(core|codecs|cli)\//.test(fileName) && !isTest(fileName)) {
      const lines = lineOf(node.getEnd()) - lineOf(node.getStart()) + 1
      const name = node.name?.getText() ?? node.parent?.name?.getText?.() ?? 'a function'
      if (lines > MAX_LINES) note('long functions of core, codecs and cli', sourceFile, node, `${name}, ${lines} lines`)
    }
    const inside = ts.isConditionalExpression(node) || (inCondition && ts.isParenthesizedExpression(node))
    ts.forEachChild(node, (child) => visit(child, inside))
  }
  visit(sourceFile, false)
}

/** The names that a file exports and defines itself. */
function definitionsOf(sourceFile) {
  const modifiersOf = (node) => (ts.canHaveModifiers(node) ? (ts.getModifiers(node) ?? []) : []).map(({ kind }) => kind)
  return sourceFile.statements.flatMap((statement) => {
    const modifiers = modifiersOf(statement)
    if (!modifiers.includes(ts.SyntaxKind.ExportKeyword) || modifiers.includes(ts.SyntaxKind.DefaultKeyword)) return []
    if (ts.isVariableStatement(statement))
      return statement.declarationList.declarations.map(({ name }) => name.getText())
    return statement.name ? [statement.name.getText()] : []
  })
}

const filesByName = new Map()
for (const file of globSync('{src,demo,bench,e2e,scripts}/**/*.{ts,tsx}', { ignore: ['**/*.d.ts', '**/_*'] })) {
  const sourceFile = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true)
  countComments(sourceFile)
  countCode(sourceFile)
  if (isTest(file)) continue
  for (const name of new Set(definitionsOf(sourceFile))) filesByName.set(name, [...(filesByName.get(name) ?? []), file])
}
for (const [name, files] of filesByName)
  if (files.length > 1 && !ROUTE_EXPORTS.has(name))
    places['exported names that are defined twice'].push(`${name}: ${files.join(', ')}`)

const counts = Object.fromEntries(Object.entries(places).map(([kind, found]) => [kind, found.length]))
if (process.argv.includes('--keep')) writeFileSync(LIMITS, `${JSON.stringify(counts, null, 2)}\n`)
const limits = JSON.parse(readFileSync(LIMITS, 'utf8'))
for (const [kind, found] of Object.entries(places)) {
  if (process.argv.includes('--list'))
    process.stdout.write(`${found.length} ${kind}\n${found.map((each) => `  ${each}\n`).join('')}`)
  const limit = limits[kind] ?? 0
  if (found.length <= limit) continue
  process.stderr.write(
    `${found.length} ${kind}, where there were ${limit}: \`node scripts/reading.mjs --list\` names them.\n`,
  )
  process.exitCode = 1
}
