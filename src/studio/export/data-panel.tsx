'use client'

import { useState } from 'react'
import { toast } from 'sonner'
import { turnPage } from '@/codecs/turn-page'
import { toNumber } from '@/core/clock'
import { type Loop, places } from '@/core/document'
import { closesAfter, motionsAsCsv, motionsAsJson } from '@/core/output'
import { scaledSize } from '@/render/browser'
import { exportClient, importClient } from '@/workers/page/clients'
import { fileName, problemText, saveFile } from '../files'

/** Frames of a page that is turned by hand: more would make it heavy, and are not told apart under a finger. */
const MAX_FRAMES = 72

const dataAddress = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result))
    reader.onerror = () => reject(reader.error ?? new Error('The frame could not be read back.'))
    reader.readAsDataURL(blob)
  })

/** Files for programs that move the loop by a clock of their own: its motions as data, models with the motion in them, a page to turn it by hand. */
export function DataPanel({ loop, scale }: { loop: Loop; scale: number }) {
  const [drawn, setDrawn] = useState<number | null>(null)
  const models = [...places(loop.layers)].filter(({ layer }) =>
    loop.media.some(({ kind, id }) => kind === 'model' && id === layer.values.model),
  )
  const own = models.filter(({ layer }) => layer.values.pass === 'colour')
  const save = async (content: BlobPart, type: string, ending: string, said: string) => {
    if (await saveFile(new Blob([content], { type }), fileName(loop, ending))) toast.success(said)
  }
  const saveModel = async (id: string, name: string) => {
    const client = importClient()
    try {
      const made = await client.ask(async (service) => service.gltf(loop, id))
      if (!('done' in made)) return void toast.error(made.problem, { duration: 12_000 })
      const { glb, readBack } = made.done
      const off = `the last key is ${readBack.degrees.toFixed(3)}° from the first`
      if (!(await saveFile(new Blob([glb], { type: 'model/gltf-binary' }), fileName({ name }, '.glb')))) return
      if (readBack.closes) toast.success(`${name} was written and read back: it closes.`, { description: off })
      else toast.warning(`${name} was written, and does not close when it is read back: ${off}.`, { duration: 12_000 })
    } catch (error) {
      toast.error(problemText(error).title)
    } finally {
      client.end()
    }
  }
  const savePage = async () => {
    const client = exportClient()
    const every = Math.max(1, Math.ceil(loop.length / MAX_FRAMES))
    const chosen = Array.from({ length: loop.length }, (_, n) => n).filter((n) => n % every === 0)
    try {
      const frames: string[] = []
      for (const n of chosen) {
        setDrawn(frames.length)
        frames.push(await dataAddress(await client.service.png(loop, n, scale)))
      }
      const page = turnPage({ name: loop.name, ...scaledSize(loop, scale), rate: toNumber(loop.rate) / every, frames })
      await save(page, 'text/html', '.html', 'The page was saved; it needs nothing beside it.')
    } catch (error) {
      toast.error(problemText(error).title)
    } finally {
      setDrawn(null)
      client.end()
    }
  }
  return (
    <div className="max-w-xl space-y-5 p-4">
      <p className="text-sm">{closesAfter(loop)}</p>
      <fieldset className="space-y-1.5">
        <legend className="font-semibold">Motions as data</legend>
        <p className="dim text-xs">
          Keys and eases as they are, and every value frame by frame, the closing frame too.
        </p>
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-neutral btn-sm"
            onClick={() =>
              void save(motionsAsJson(loop), 'application/json', '-motions.json', 'The motions were saved.')
            }
          >
            Save as JSON
          </button>
          <button
            type="button"
            className="btn btn-neutral btn-sm"
            onClick={() => void save(motionsAsCsv(loop), 'text/csv', '-motions.csv', 'The values were saved.')}
          >
            Save as CSV
          </button>
        </div>
      </fieldset>
      {own.length > 0 && (
        <fieldset className="space-y-1.5">
          <legend className="font-semibold">Models with their motion</legend>
          <p className="dim text-xs">
            glTF (.glb): parts, names, placement and extra data as they came, with the motion after them. It is read
            back before it is called closed.
          </p>
          <div className="flex flex-wrap gap-2">
            {own.map(({ layer }) => (
              <button
                key={layer.id}
                type="button"
                className="btn btn-neutral btn-sm"
                onClick={() => void saveModel(layer.id, layer.name)}
              >
                Save {layer.name} as glTF
              </button>
            ))}
          </div>
        </fieldset>
      )}
      <fieldset className="space-y-1.5">
        <legend className="font-semibold">A page to turn it by hand</legend>
        <p className="dim text-xs">
          One HTML file with up to {MAX_FRAMES} frames in it: dragged, by the arrow keys or the wheel; it plays until it
          is taken hold of.
        </p>
        <button
          type="button"
          className="btn btn-neutral btn-sm"
          disabled={drawn !== null}
          onClick={() => void savePage()}
        >
          {drawn === null ? 'Save the page' : `Drawing, ${drawn} done …`}
        </button>
      </fieldset>
    </div>
  )
}
