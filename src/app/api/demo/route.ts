import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { NextResponse } from 'next/server'
import { parseLoop } from '@/core/document'

const FOLDER = join(process.cwd(), 'demo', 'loops')

export const dynamic = 'force-static'

/** The demo loops, for a library that is opened for the first time, and what their pictures have said of them, by the hashes of their files. */
export async function GET() {
  const files = (await readdir(FOLDER)).filter((file) => file.endsWith('.cyclon.json')).sort()
  const loops = await Promise.all(files.map(async (file) => parseLoop(await readFile(join(FOLDER, file), 'utf8'))))
  // Models take longest to be drawn: they come last, so that the library is there at once.
  loops.sort((a, b) => Number(a.kind === 'turntable') - Number(b.kind === 'turntable'))
  const verdicts: unknown = JSON.parse(await readFile(join(process.cwd(), 'demo', 'verdicts.json'), 'utf8'))
  return NextResponse.json({ loops, verdicts })
}
