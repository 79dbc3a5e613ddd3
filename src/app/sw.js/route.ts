import { createHash } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { build } from 'esbuild'
import { LOOP_VIEWS, TEMPLATE_ID } from '@/offline/template'

/** Made once, with the application that it keeps. */
export const dynamic = 'force-static'

const PAGES = [
  '/',
  '/file',
  ...LOOP_VIEWS.map((view) => `/loop/${TEMPLATE_ID}/${view}`),
  '/icon.svg',
  '/manifest.webmanifest',
  '/api/job-files',
]

/** The worker that keeps the application in the browser, with the list of what belongs to this version. */
export async function GET() {
  const folder = join(process.cwd(), '.next', 'static')
  const files = (await readdir(folder, { recursive: true, withFileTypes: true })).flatMap((entry) =>
    entry.isFile() && !entry.name.endsWith('.map') ? [join(entry.parentPath, entry.name).slice(folder.length + 1)] : [],
  )
  const version = createHash('sha256')
  for (const file of files.sort()) version.update(file).update(await readFile(join(folder, file)))
  const revision = version.digest('hex').slice(0, 16)
  const entries = [
    // Their names change with what is in them.
    ...files.map((file) => ({ url: `/_next/static/${file}`, revision: null })),
    ...PAGES.map((url) => ({ url, revision })),
  ]
  const { outputFiles } = await build({
    entryPoints: [join(process.cwd(), 'src', 'offline', 'worker.ts')],
    bundle: true,
    minify: true,
    write: false,
    format: 'iife',
    define: { 'self.PRECACHED': JSON.stringify(entries), 'process.env.NODE_ENV': '"production"' },
  })
  return new Response(outputFiles[0]?.contents as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'text/javascript; charset=utf-8', 'Cache-Control': 'no-cache' },
  })
}
