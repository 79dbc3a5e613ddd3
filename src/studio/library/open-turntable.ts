import { toast } from 'sonner'
import { fraction } from '@/core/clock'
import { begunLoop } from '@/core/edit'
import { withFormat } from '@/core/output'
import { openUnsaved } from '@/store/autosave'
import { documentStore } from '@/store/document'
import { setSettings, useExport } from '@/store/export'
import { setSession } from '@/store/session'
import { readModelFile } from '../model-files'

/** Turntables are shown as videos: that is what is written unless something else is chosen. */
export const writeAsVideo = (): void => setSettings(withFormat(useExport.getState().settings, 'mp4'))

/** Opens a new loop in which a model turns. A file that cannot be read is said, and changes nothing. */
export async function openTurntable(
  file: File,
  beside: readonly File[],
  show: (address: `/loop/${string}`) => void,
): Promise<void> {
  const reading = toast.loading(`Reading ${file.name} …`)
  try {
    const model = await readModelFile(file, beside)
    const size = { width: 960, height: 720 }
    const clock = { rate: fraction(30), length: 120 }
    const brief = { name: model.name, kind: 'turntable', ...size, background: '#e8eef0', ...clock } as const
    const loop = begunLoop(brief, undefined, model)
    await openUnsaved(loop)
    writeAsVideo()
    setSession({ selection: loop.layers.slice(0, 1).map(({ id }) => id) })
    show(`/loop/${documentStore.getState().loop?.id}/compose`)
  } catch (error) {
    toast.error((error as Error).message, { duration: 12_000 })
  } finally {
    toast.dismiss(reading)
  }
}
