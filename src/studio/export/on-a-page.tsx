import { Copy, ImageDown } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import type { Loop } from '@/core/document'
import { ENDINGS, type FileSettings, type PageLines, pageLines } from '@/core/output'
import type { ExportedFile } from '@/workers/inside/export.worker'
import { fileName, saveFile } from '../files'
import { Choices } from '../parts'

const PLACES = ['on a page', 'in a button', 'behind a page', 'on a phone'] as const
const LIGHTS = ['light', 'dark'] as const

interface OnAPageProps {
  readonly loop: Loop
  readonly settings: FileSettings
  readonly result: Pick<ExportedFile, 'type' | 'width' | 'height'>
  readonly url: string
}

/** The written file as it looks on a page, and the lines that put it there. */
export function OnAPage({ loop, settings, result, url }: OnAPageProps) {
  const [place, setPlace] = useState(0)
  const [light, setLight] = useState(0)
  const [chosen, setChosen] = useState(0)
  const { width, height, type } = result
  const poster = fileName(loop, '.png')
  const lines = pageLines({
    format: settings.format,
    file: fileName(loop, ENDINGS[settings.format]),
    poster,
    width,
    height,
    alt: loop.name,
  })
  const line = lines[Math.min(chosen, lines.length - 1)]
  if (!line) return null
  const copy = () =>
    navigator.clipboard.writeText(line.text).then(
      () => toast.success('The lines are copied.'),
      () => toast.error('This browser lets nothing be copied. Select the lines and copy them.'),
    )
  const savePoster = async () => {
    const blob = await firstFrame(url, type)
    if (blob && (await saveFile(blob, poster))) toast.success('The poster was saved.')
  }
  return (
    <section aria-label="On a page" className="hairline mt-4 rounded-box border bg-base-100 p-4">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">On a page</h2>
        {type !== 'application/json' && (
          <>
            <Choices label="Place" options={PLACES} chosen={place} onChoose={setPlace} />
            <Choices label="Light" options={LIGHTS} chosen={light} onChoose={setLight} />
          </>
        )}
      </div>
      {type !== 'application/json' && (
        <InPlace place={PLACES[place] ?? 'on a page'} dark={light === 1} url={url} result={result} />
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Choices
          label="Lines"
          options={lines.map(({ name }) => name)}
          chosen={Math.min(chosen, lines.length - 1)}
          onChoose={setChosen}
        />
        <span className="ms-auto" />
        {type.startsWith('video/') && (
          <button type="button" className="btn btn-neutral btn-xs" onClick={() => void savePoster()}>
            <ImageDown size={14} aria-hidden="true" /> Save the poster
          </button>
        )}
        <button type="button" className="btn btn-neutral btn-xs" onClick={() => void copy()}>
          <Copy size={14} aria-hidden="true" /> Copy the lines
        </button>
      </div>
      <Lines {...line} />
    </section>
  )
}

const Lines = ({ text, truth }: PageLines) => (
  <>
    <pre
      data-testid="page-lines"
      className="hairline mt-2 whitespace-pre-wrap break-all rounded-field border p-2 text-2xs select-all"
    >
      {text}
    </pre>
    {truth && <p className="dim mt-1 text-xs">{truth}</p>}
  </>
)

/** The first frame of a written video as a picture; null where it cannot be read. */
async function firstFrame(url: string, type: string): Promise<Blob | null> {
  if (!type.startsWith('video/')) return null
  const video = Object.assign(document.createElement('video'), { muted: true, preload: 'auto', src: url })
  await new Promise((resolve, reject) => {
    video.addEventListener('loadeddata', resolve, { once: true })
    video.addEventListener('error', reject, { once: true })
  })
  const canvas = Object.assign(document.createElement('canvas'), { width: video.videoWidth, height: video.videoHeight })
  canvas.getContext('2d')?.drawImage(video, 0, 0)
  return new Promise((resolve) => canvas.toBlob(resolve, 'image/png'))
}

interface InPlaceProps {
  readonly place: (typeof PLACES)[number]
  readonly dark: boolean
  readonly url: string
  readonly result: OnAPageProps['result']
}

/** Words as grey bars: what stands round the loop is not what is looked at. */
const Words = ({ lines }: { readonly lines: number }) => (
  <span className="flex w-full flex-col gap-2" aria-hidden="true">
    {Array.from({ length: lines }, (_, n) => (
      <span key={n} className="h-2 rounded bg-current opacity-15" style={{ width: `${100 - ((n * 37) % 45)}%` }} />
    ))}
  </span>
)

function InPlace({ place, dark, url, result }: InPlaceProps) {
  const ground = dark ? 'bg-[#14171a] text-[#f2f2f2]' : 'bg-[#ffffff] text-[#1b1f23]'
  const behind = place === 'behind a page'
  const shown = place === 'in a button' ? 20 : Math.min(result.height, 150)
  const file = <Shown url={url} type={result.type} cover={behind} height={shown} />
  if (place === 'in a button')
    return (
      <div className={`${ground} mt-3 flex h-52 items-center justify-center rounded-field`}>
        <span className="flex items-center gap-2 rounded-lg border border-current/30 px-4 py-2 text-sm">
          {file} Sending …
        </span>
      </div>
    )
  if (place === 'on a phone')
    return (
      <div className="mt-3 flex h-72 items-center justify-center">
        <div
          className={`${ground} flex h-64 w-32 flex-col items-center justify-center gap-4 overflow-hidden rounded-2xl border-4 border-neutral p-2`}
        >
          <Words lines={2} />
          {file}
          <Words lines={4} />
        </div>
      </div>
    )
  return (
    <div className={`${ground} relative mt-3 flex h-52 items-center gap-5 overflow-hidden rounded-field p-5`}>
      {behind ? <span className="absolute inset-0">{file}</span> : file}
      <span
        className={behind ? `relative w-1/2 rounded p-4 ${dark ? 'bg-black/60' : 'bg-white/75'}` : 'min-w-0 flex-1'}
      >
        <Words lines={6} />
      </span>
    </div>
  )
}

function Shown({ url, type, cover, height }: { url: string; type: string; cover: boolean; height: number }) {
  const className = cover ? 'h-full w-full object-cover' : 'max-w-full shrink-0 object-contain'
  const style = cover ? undefined : { height }
  if (type.startsWith('video/'))
    return <video src={url} className={className} style={style} autoPlay loop muted playsInline aria-hidden="true" />
  // biome-ignore lint/performance/noImgElement: the written file itself, not a page asset
  return <img src={url} alt="" className={className} style={style} />
}
