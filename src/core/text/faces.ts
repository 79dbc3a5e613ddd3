/** A face: its measures and outlines, in units of the em, the y axis down. */
export interface Face {
  readonly unitsPerEm: number
  readonly ascender: number
  readonly descender: number
  /** Advance and outline of each character. */
  readonly glyphs: Readonly<Record<string, readonly [advance: number, outline: string]>>
  readonly kerning: Readonly<Record<string, number>>
}

/** The faces that are shipped: Figtree and JetBrains Mono, both under the SIL Open Font License. */
export const FACES = ['regular', 'bold', 'mono'] as const
export type FaceName = (typeof FACES)[number]

const SOURCES: Record<FaceName, () => Promise<{ readonly default: unknown }>> = {
  regular: () => import('./regular.json'),
  bold: () => import('./bold.json'),
  mono: () => import('./mono.json'),
}

const here = new Map<FaceName, Face>()

/** Whether text can be set in these faces. */
export const facesAreHere = (names: readonly FaceName[]): boolean => names.every((name) => here.has(name))

/** Fetches faces that are not here yet; text can be set in them afterwards. Without names: all of them. */
export async function loadFaces(names: readonly FaceName[] = FACES): Promise<void> {
  await Promise.all(
    names
      .filter((name) => !here.has(name))
      .map(async (name) => void here.set(name, (await SOURCES[name]()).default as Face)),
  )
}

/** @throws Error before the face is here */
export function faceCalled(name: FaceName): Face {
  const face = here.get(name)
  if (!face) throw new Error(`Text in the face “${name}” was to be set before its outlines were here.`)
  return face
}
