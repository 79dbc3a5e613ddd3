'use client'

import { fileOpen } from 'browser-fs-access'
import { FolderOpen } from 'lucide-react'
import { useEffect, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { cancelClip, clipService, openClip, redoMend, undoMend, useClip, writeClip } from '@/store/clip'
import { VerdictMark } from '../parts'
import { Compare, type FrameSource } from '../seam/compare'
import { Choices, CompareTools, FIRST_WAY, type HowToCompare } from '../seam/compare-tools'
import { StepChart } from '../seam/step-chart'
import { Brand, ThemeButton } from '../shell/brand'
import { CLOCK, MendsByHand } from './by-hand'
import { Facts } from './facts'
import { Findings, MendHistory } from './findings'
import { Player } from './player'
import { Strip } from './strip'
import { WrittenFile } from './written-file'

const TYPES = ['image/*', 'video/*'] as const
const ENDINGS = ['.gif', '.png', '.apng', '.webp', '.avif', '.jpg', '.jpeg', '.mp4', '.mov', '.webm'] as const

/** The frames of the clip with the mends that are shown. */
function useClipFrames(): FrameSource | null {
  const { facts, mends, preview } = useClip()
  return useMemo(() => {
    if (!facts) return null
    const all = preview ? [...mends, preview.mend] : mends
    return {
      ...{ width: facts.claims.width, height: facts.claims.height, transparent: facts.transparent },
      bitmap: (n) => clipService().bitmap(all, n),
      difference: (a, b, gain) => clipService().difference(all, a, b, gain),
    }
  }, [facts, mends, preview])
}

/** Any file's seam: what it claims and contains, what is found in it, what mends it. */
export function FileView() {
  const { facts, mended, preview, original, working, problem, written, mends } = useClip()
  const [how, setHow] = useState<HowToCompare>(FIRST_WAY)
  const [frame, setFrame] = useState<number | null>(null)
  const [playing, setPlaying] = useState<'whole' | 'seam' | null>(null)
  const source = useClipFrames()
  const shown = preview ?? mended
  const N = shown?.plan.frames.length ?? 0
  const at = Math.min(frame ?? N - 1, Math.max(0, N - 1))
  const pair = useMemo(() => [at, N > 0 ? (at + 1) % N : 0] as const, [at, N])
  useEffect(() => {
    if (facts) setFrame(null)
  }, [facts])
  const [ready, setReady] = useState(false)
  useEffect(() => {
    setReady(true)
    const paste = (event: ClipboardEvent) => {
      const files = [...(event.clipboardData?.files ?? [])]
      if (files.length > 0) void openClip(files)
    }
    document.addEventListener('paste', paste)
    return () => document.removeEventListener('paste', paste)
  }, [])
  const scrub = (by: number) => setFrame((from) => (Math.min(from ?? N - 1, N - 1) + by + N) % N)
  useHotkeys('left', () => scrub(-1), { enabled: N > 0, preventDefault: true })
  useHotkeys('right', () => scrub(1), { enabled: N > 0, preventDefault: true })
  useHotkeys('space', () => setPlaying(playing ? null : 'whole'), {
    enabled: N > 0,
    preventDefault: true,
  })
  useHotkeys('mod+z', () => void undoMend(), { preventDefault: true })
  useHotkeys('mod+shift+z, mod+y', () => void redoMend(), { preventDefault: true })
  const choose = async () => {
    const files = await fileOpen({ multiple: true, mimeTypes: [...TYPES], extensions: [...ENDINGS] }).catch(
      (error: unknown) => {
        if (error instanceof DOMException && error.name === 'AbortError') return []
        throw error
      },
    )
    await openClip(files)
  }
  const drop = {
    onDragOver: (event: React.DragEvent) => event.preventDefault(),
    onDrop: (event: React.DragEvent) => {
      event.preventDefault()
      void openClip([...event.dataTransfer.files])
    },
  }
  const label = (n: number) => `frame ${n}${n === N - 1 ? ', the last' : n === 0 ? ', the first' : ''}`
  return (
    <div className="flex h-dvh flex-col overflow-hidden" data-testid="file-view" data-ready={ready} {...drop}>
      <header className="hairline flex h-10 shrink-0 items-center gap-3 border-b bg-base-100 px-4">
        <Brand />
        <h1 className="truncate font-semibold">{facts?.name ?? 'Any file’s seam'}</h1>
        <span className="ms-auto" />
        <button type="button" className="btn btn-neutral btn-xs" onClick={() => void choose()}>
          <FolderOpen size={14} aria-hidden="true" /> Open a file
        </button>
        <ThemeButton />
      </header>
      {problem && (
        <p role="alert" className="alert alert-error alert-soft m-2 py-2">
          <span className="flex-1">{problem}</span>
          <button type="button" className="btn btn-ghost btn-xs" onClick={() => useClip.setState({ problem: null })}>
            Close
          </button>
        </p>
      )}
      {working && (
        <div role="status" className="hairline flex items-center gap-3 border-b bg-base-100 px-4 py-1.5">
          <span>{working.what}</span>
          <progress className="progress progress-primary flex-1" max={working.of} value={working.done} />
          <span className="figures dim">{timeLeft(working)}</span>
          <button type="button" className="btn btn-xs" onClick={() => void cancelClip()}>
            Cancel
          </button>
        </div>
      )}
      {!facts || !shown || !source ? (
        <main className="flex flex-1 items-center justify-center">
          <div className="hairline rounded-box border border-dashed p-10 text-center">
            <p className="font-semibold">Drop a GIF, APNG, WebP, AVIF, MP4, MOV or WebM here, or numbered pictures.</p>
            <p className="dim">
              You can paste one, too. Its seam is looked at in this browser; the file goes nowhere and is never changed.
            </p>
          </div>
        </main>
      ) : (
        <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_22rem]">
          <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_5.5rem_10rem]">
            <div className="hairline flex h-10 items-center gap-3 border-b bg-base-100 px-3">
              <CompareTools how={how} onChange={setHow} clock={CLOCK}>
                <span className="figures dim">
                  {at} → {pair[1]}
                </span>
              </CompareTools>
              <span className="ms-auto" />
              <Choices
                label="Playing"
                options={['still', 'play', 'around the seam, ¼']}
                chosen={playing === null ? 0 : playing === 'whole' ? 1 : 2}
                onChoose={(i) => setPlaying(([null, 'whole', 'seam'] as const)[i] ?? null)}
              />
            </div>
            {playing ? (
              <Player source={source} plan={shown.plan} around={playing === 'seam'} />
            ) : (
              <Compare
                source={source}
                frames={pair.map((n) => ({ n, name: `frame ${n}`, label: label(n) }))}
                {...how}
              />
            )}
            <div className="hairline min-h-0 border-t bg-base-100">
              <Strip source={source} length={N} frames={pair} onFrame={setFrame} />
            </div>
            <section className="hairline min-h-0 border-t bg-base-100" aria-label="Steps round the loop">
              <StepChart pictures={shown.report.seam} onFrame={setFrame} />
            </section>
          </div>
          <aside
            className="hairline min-h-0 space-y-4 overflow-y-auto border-s bg-base-100 p-4"
            aria-label="What is found"
          >
            <div>
              <div className="flex h-7 items-center gap-2 text-lg" aria-live="polite">
                <VerdictMark verdict={shown.report.seam.verdict} size={22} />
                {preview && <span className="dim text-xs">if this is mended</span>}
              </div>
              {/* As tall with words as without: what is below must not move away from the pointer. */}
              <p className="dim h-4 text-xs">
                {original && original.seam.verdict !== shown.report.seam.verdict
                  ? `Before: ${original.seam.verdict.replaceAll('-', ' ')}.`
                  : ''}
              </p>
              <p className="figures dim mt-1 text-xs">
                seam step {shown.report.seam.seamStep.toFixed(4)}, expected {shown.report.seam.expected.toFixed(4)}
              </p>
            </div>
            {mended && <Findings findings={mended.report.findings} count={mended.plan.frames.length} />}
            {mended && <MendsByHand count={mended.plan.frames.length} />}
            <MendHistory />
            <Facts facts={facts} plan={shown.plan} />
            <button
              type="button"
              className="btn btn-primary btn-sm w-full"
              disabled={working !== null}
              onClick={() => void writeClip()}
            >
              Write a GIF and prove it
            </button>
            {written && <WrittenFile written={written} name={facts.name} stale={written.mends !== mends} />}
          </aside>
        </main>
      )}
    </div>
  )
}

function timeLeft({ done, of, since }: { done: number; of: number; since: number }): string {
  const passed = performance.now() - since
  if (done === 0 || passed < 500) return ''
  const left = (passed / done) * (of - done)
  return left < 1000 ? 'nearly done' : `${Math.ceil(left / 1000)} s left`
}
