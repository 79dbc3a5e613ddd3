import type { VectorFormat } from '@/core/output'

/** Header facts of a vector file; size in px. */
export interface VectorClaims {
  readonly seconds: number
  readonly width: number
  readonly height: number
}

/** Shows vector files as the browser, or a player of Lottie, draws them: only documents can, so that it works on the page. */
export interface VectorViewer {
  /** Takes a file in place of the one before. @throws Error where it is none */
  readonly open: (text: string, format: VectorFormat) => Promise<VectorClaims>
  /** Picture at a time in s, at a size in px; the bitmap is transferred. */
  readonly at: (seconds: number, width: number, height: number) => Promise<ImageBitmap>
  /** Takes what is shown out of the page; nothing is opened after that. */
  readonly close: () => Promise<void>
}
