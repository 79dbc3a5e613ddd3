/** Clips that come with the demo. */
export const DEMO_CLIP_FILES = [
  { id: 'lamp-room-glass', name: 'Lamp-room glass' },
  { id: 'ferry-wake', name: 'Ferry wake' },
  { id: 'awning-and-gulls', name: 'Awning and gulls' },
] as const

const FILES = {
  picture: { ending: 'jpg', type: 'image/jpeg' },
  model: { ending: 'glb', type: 'model/gltf-binary' },
  clip: { ending: 'webm', type: 'video/webm' },
} as const

/** A still, model or clip of the demo as a file. @throws Error where it cannot be fetched, in words */
export async function demoFile(kind: keyof typeof FILES, id: string): Promise<File> {
  const { ending, type } = FILES[kind]
  const response = await fetch(`/api/demo/${id}.${ending}`)
  if (!response.ok) throw new Error('A file of the demo could not be fetched. Reload the page to try again.')
  return new File([await response.blob()], `${id}.${ending}`, { type })
}
