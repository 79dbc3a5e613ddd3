import { transfer } from 'comlink'
import { isZip, unzipProject, zipProject } from '@/codecs'
import { type Loop, LoopFileError, parseLoop } from '@/core/document'
import { readSvg, type SvgContent } from '@/core/svg'
import { serve } from './serve'

/** What came of work whose refusal says what is wrong and what can be done. */
type Outcome<T> = { readonly done: T } | { readonly problem: string; readonly advice: string }

function attempt<T>(work: () => T): Outcome<T> {
  try {
    return { done: work() }
  } catch (error) {
    if (error instanceof LoopFileError) return { problem: error.message, advice: error.advice }
    throw error
  }
}

const service = {
  /** The layers of an SVG file. @throws SvgError */
  svg: (text: string, name: string): SvgContent => readSvg(text, name),

  /** The loop in a file of its JSON, or in a project archive. */
  loop: (bytes: Uint8Array): Outcome<Loop> =>
    attempt(() => (isZip(bytes) ? unzipProject(bytes) : parseLoop(new TextDecoder().decode(bytes)))),

  /** A loop with its media as a project archive; the bytes are transferred. */
  archive(loop: Loop): Outcome<Uint8Array<ArrayBuffer>> {
    const outcome = attempt(() => zipProject(loop))
    return 'done' in outcome ? transfer(outcome, [outcome.done.buffer]) : outcome
  },
}

export type ImportService = typeof service
serve(service)
