import type { Asset, Clip, StillPicture } from '../media'

/** An asset of which there are no bytes anywhere. */
export const noFile = (n: number, sizes?: readonly number[], type = 'image/png'): Asset => ({
  id: n.toString(16).padStart(64, 'a'),
  type,
  bytes: sizes?.reduce((sum, size) => sum + size, 0) ?? 100,
  ...(sizes && { parts: sizes }),
})

/** A clip of which there are no files: what is evaluated names them only. */
export const wakeOf = (delaysMs: readonly number[], more: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id: 'wake',
  name: 'Ferry wake',
  width: 320,
  height: 200,
  verdict: 'closes',
  delaysMs,
  frames: noFile(
    1,
    delaysMs.map(() => 10),
  ),
  ...more,
})

/** A picture of which there is no file. */
export const pierOf = (more: Partial<StillPicture> = {}): StillPicture => ({
  kind: 'picture',
  id: 'pier',
  name: 'Pier',
  width: 40,
  height: 30,
  file: noFile(2),
  ...more,
})
