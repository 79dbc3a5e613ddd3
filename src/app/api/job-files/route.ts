import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { NextResponse } from 'next/server'

export const dynamic = 'force-static'

/** The job files for schedulers, as they lie in `cluster/`. */
export async function GET() {
  const read = (name: string) => readFile(join(process.cwd(), 'cluster', name), 'utf8')
  return NextResponse.json({ 'slurm.sh': await read('slurm.sh'), 'kubernetes.yaml': await read('kubernetes.yaml') })
}
