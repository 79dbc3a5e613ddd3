import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { drawerOf } from '../src/cli/drawer'
import { checkMotions } from '../src/core/closing'
import { formatLoop, type Loop, parseLoop, withFaces } from '../src/core/document'
import type { Picture } from '../src/core/image'
import { assetsIn, keepAtHand, type Medium } from '../src/core/media'
import { judgeLoop, judgeSeam } from '../src/core/seam'

const fileOf = ({ kind, id }: Medium) =>
  readFileSync(new URL(kind === 'model' ? `./loops/assets/${id}.glb` : `./loops/assets/${id}.jpg`, import.meta.url))

/** Names the state of a loop in a file as the library does: by what it writes of it once it has been read. */
export const storedState = (text: string): string =>
  createHash('sha256')
    .update(formatLoop(parseLoop(text)))
    .digest('hex')

/** The verdict on a demo loop, by its motions and by its pictures: drawn as large as the eye needs to tell, a quarter, with photographs an eighth. */
export async function verdictOf(loop: Loop): Promise<string> {
  for (const medium of loop.media)
    keepAtHand(new Map(assetsIn([medium]).map(({ id }) => [id, new Blob([fileOf(medium)])])))
  const scale = loop.media.some(({ kind }) => kind === 'picture') ? 8 : 4
  // Models are drawn by a browser.
  await withFaces(loop)
  const drawer = await drawerOf(loop, loop.width / scale, loop.height / scale)
  const pictures: Picture[] = []
  try {
    for (let n = 0; n < loop.length; n++) pictures.push(await drawer.draw(n))
  } finally {
    await drawer.end()
  }
  return judgeLoop(loop, checkMotions(loop), judgeSeam(pictures)).verdict
}
