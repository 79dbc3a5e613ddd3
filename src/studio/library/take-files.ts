import { toast } from 'sonner'
import { allLayers, type Loop } from '@/core/document'
import { besideOthers, openFromFile } from '@/store/autosave'
import { cancelClip, openClip, useClip } from '@/store/clip'
import { clipAmong } from '@/store/clip-files'
import { heldAs, saveLoop } from '@/store/library'
import { chooseLoopFile, problemText, readLoopFile } from '../files'
import { bringIn, bringInModel, isPictureFile } from '../material'
import { modelAmong } from '../model-files'
import { openTurntable } from './open-turntable'

/** Puts a loop from a file into the library; one whose id is taken by another state of it comes in beside it. */
async function intoLibrary(loop: Loop): Promise<Loop> {
  const kept = await besideOthers(loop)
  if ((await heldAs(kept.id)) === null) await saveLoop(kept)
  return kept
}

/** Reads dropped loop files into the library. A file that cannot be read is said, and changes nothing. */
async function takeInFiles(files: readonly File[]): Promise<Loop[]> {
  const taken: Loop[] = []
  for (const file of files) {
    try {
      taken.push(await intoLibrary(await readLoopFile(file)))
    } catch (error) {
      const { title, description } = problemText(error)
      toast.error(`${file.name}: ${title}`, { ...(description ? { description } : {}), duration: 12_000 })
    }
  }
  return taken
}

/** Where files are taken in. */
export interface Taking {
  /** Shows the view of a file, or the library. */
  readonly show: (address: '/file' | '/' | `/loop/${string}`) => void
  /** Where no loop is open: what the library is to do when it holds more. */
  readonly onTaken?: ((loops: readonly Loop[]) => void) | undefined
}

/** Takes in what was dropped or pasted: loop files, moving pictures, and, where a loop is open, pictures as layers of it. */
export async function takeIn(dropped: readonly File[], { show, onTaken }: Taking): Promise<void> {
  const model = await modelAmong(dropped)
  if (model) {
    // In the library a model becomes a loop of its own.
    if (!onTaken) await bringInModel(model.file, model.beside)
    else await openTurntable(model.file, model.beside, show)
    return
  }
  const clip = await clipAmong(dropped, !onTaken)
  if (clip.length > 0) {
    // Whoever works on a loop stays there until the file has been read, and for good where it cannot be.
    const reading = onTaken
      ? null
      : toast.loading(`Reading ${clip[0]?.name} …`, { action: { label: 'Cancel', onClick: () => void cancelClip() } })
    if (onTaken) show('/file')
    const opened = await openClip(clip)
    if (reading !== null) {
      toast.dismiss(reading)
      if (opened) show('/file')
      else {
        toast.error(
          useClip.getState().problem ?? 'The file could not be read. Try to open it in Footage, which says more.',
          { duration: 12_000 },
        )
        useClip.setState({ problem: null })
      }
    }
  }
  const files = dropped.filter((file) => !clip.includes(file))
  const pictures = onTaken ? [] : files.filter(isPictureFile)
  if (pictures.length > 0) await bringIn(pictures)
  const loops = await takeInFiles(files.filter((file) => !pictures.includes(file)))
  if (loops.length === 0) return
  toast.success(
    loops.length === 1
      ? `${loops[0]?.name} (${allLayers(loops[0] as Loop).length} layers) is in the library.`
      : `${loops.length} loops are in the library.`,
    { action: onTaken ? undefined : { label: 'To the library', onClick: () => show('/') } },
  )
  onTaken?.(loops)
}

/** Asks for a loop file and opens it. Returns its id; null where none was chosen, or it could not be read, which is said. */
export async function openChosenFile(): Promise<string | null> {
  try {
    const loop = await chooseLoopFile()
    return loop && (await openFromFile(loop)).id
  } catch (error) {
    const { title, description } = problemText(error)
    toast.error(title, { ...(description ? { description } : {}), duration: 12_000 })
    return null
  }
}
