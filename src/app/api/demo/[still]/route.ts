import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { NextResponse } from 'next/server'

const FOLDER = join(process.cwd(), 'demo', 'stills')

export const dynamicParams = false

/** The stills that there are; no others are looked for. */
export async function generateStaticParams() {
  return (await readdir(FOLDER)).map((still) => ({ still }))
}

/** A still of the demo loops, as a JPEG. */
export async function GET(_: Request, { params }: { params: Promise<{ still: string }> }) {
  const { still } = await params
  const bytes = await readFile(join(FOLDER, still))
  return new NextResponse(new Uint8Array(bytes), { headers: { 'Content-Type': 'image/jpeg' } })
}
