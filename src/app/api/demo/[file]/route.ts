import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { NextResponse } from 'next/server'

/** Where the media of the demo lie, and of what type they are. */
const ASSETS = join('loops', 'assets')
const FOLDERS = [
  [ASSETS, 'image/jpeg', '.jpg'],
  [ASSETS, 'model/gltf-binary', '.glb'],
  ['clips', 'video/webm', '.webm'],
] as const

export const dynamicParams = false

/** The files that there are; no others are looked for. */
export async function generateStaticParams() {
  const all = await Promise.all([ASSETS, 'clips'].map((folder) => readdir(join(process.cwd(), 'demo', folder))))
  return all.flat().map((file) => ({ file }))
}

/** A still, a model or a clip of the demo. */
export async function GET(_: Request, { params }: { params: Promise<{ file: string }> }) {
  const { file } = await params
  const [folder, type] = FOLDERS.find(([, , ending]) => file.endsWith(ending)) ?? FOLDERS[0]
  const bytes = await readFile(join(process.cwd(), 'demo', folder, file))
  return new NextResponse(new Uint8Array(bytes), { headers: { 'Content-Type': type } })
}
