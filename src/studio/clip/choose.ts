import { directoryOpen, fileOpen } from 'browser-fs-access'

const TYPES = ['image/*', 'video/*', 'application/zip'] as const
const ENDINGS = [
  ...['.gif', '.png', '.apng', '.webp', '.avif', '.jpg', '.jpeg'],
  ...['.mp4', '.mov', '.webm', '.zip'],
] as const

/** Files chosen in a dialog; empty if it was closed. */
const chosen = (dialog: Promise<File[]>): Promise<File[]> =>
  dialog.catch((error: unknown) => {
    if (error instanceof DOMException && error.name === 'AbortError') return []
    throw error
  })

/** Files that are picked; none where the dialog was closed. */
export const chooseFiles = (): Promise<File[]> =>
  chosen(fileOpen({ multiple: true, mimeTypes: [...TYPES], extensions: [...ENDINGS] }))

/** The files of a folder that is picked. */
export const chooseFolder = async (): Promise<File[]> => {
  const found = await chosen(directoryOpen({ recursive: true }) as Promise<File[]>)
  return found.filter((each) => each instanceof File)
}
