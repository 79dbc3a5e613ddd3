'use client'

import type { LOOP_KINDS } from '@/core/document'
import { demoFile } from '../demo-files'
import { readPicture } from '../material'
import { modelAmong, readModelFile } from '../model-files'
import { classNames } from '../parts'
import { DEMO_MODELS, DEMO_STILLS } from './demo-loops'

/** A file that a kind of loop is begun with. */
export interface AskedFile {
  readonly kind: 'picture' | 'model'
  readonly label: string
  readonly accept: string
  readonly multiple: boolean
  readonly words: string
  readonly demo: readonly { readonly id: string; readonly name: string }[]
  /** Whether the files of the demo are pictures that can be shown. */
  readonly pictures: boolean
}

/** Files requested by kinds of loops that begin with one. */
export const ASKED: Partial<Record<(typeof LOOP_KINDS)[number], AskedFile>> = {
  cinemagraph: {
    kind: 'picture',
    label: 'its still',
    accept: 'image/png,image/jpeg,image/webp',
    multiple: false,
    words: 'a photograph in which one thing is to move; the loop takes its size',
    demo: DEMO_STILLS,
    pictures: true,
  },
  turntable: {
    kind: 'model',
    label: 'its model',
    accept: '.glb,.gltf,.obj,.stl,.ply,.zip,.mtl,.bin,.png,.jpg,.jpeg',
    multiple: true,
    words: 'glTF, OBJ, STL or PLY, with what lies beside it; it turns once a loop in the middle of the frame',
    demo: DEMO_MODELS,
    pictures: false,
  },
}

/** The still or the model that a loop is begun with; none where none was chosen. @throws Error in words where it cannot be read */
export async function mediumOf(kind: (typeof LOOP_KINDS)[number], files: readonly File[]) {
  const [first] = files
  const asked = ASKED[kind]
  if (!asked || !first) return undefined
  if (asked.kind === 'picture') return readPicture(first)
  const model = (await modelAmong(files)) ?? { file: first, beside: [] }
  return readModelFile(model.file, model.beside)
}

interface AskedFilesProps {
  readonly asked: AskedFile
  readonly chosen: readonly File[]
  readonly onChoose: (files: readonly File[]) => void
  readonly onProblem: (problem: string) => void
}

/** Asks for the file that a loop is begun with; files of the demo are beside it for those who have none at hand. */
export function AskedFiles({ asked, chosen, onChoose, onProblem }: AskedFilesProps) {
  const taken = chosen[0]?.name.replace(/\.[^.]+$/, '')
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label className="flex items-center gap-2">
        <span className="dim w-14">{asked.label}</span>
        <input
          type="file"
          multiple={asked.multiple}
          accept={asked.accept}
          className="file-input file-input-sm bg-transparent"
          onChange={(event) => onChoose([...(event.target.files ?? [])])}
        />
      </label>
      <span className="dim text-2xs">{asked.words}</span>
      <span className="flex w-full gap-2 ps-16">
        {asked.demo.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-pressed={taken === id}
            className={classNames(
              'hairline cursor-pointer rounded-box border p-1 text-left hover:border-accent',
              taken === id && 'outline-2 outline-primary',
            )}
            onClick={() =>
              void demoFile(asked.kind, id).then(
                (file) => onChoose([file]),
                (error: Error) => onProblem(error.message),
              )
            }
          >
            {asked.pictures && (
              // biome-ignore lint/performance/noImgElement: a small picture of the application itself
              <img src={`/api/demo/${id}.jpg`} alt="" width={112} height={63} className="rounded-field" />
            )}
            <span className="mt-1 block px-1 text-2xs">{name}</span>
          </button>
        ))}
      </span>
    </div>
  )
}
