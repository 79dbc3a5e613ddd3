/** The part of gifenc 1.0 that is used; the package ships no types. */
declare module 'gifenc' {
  interface FrameOptions {
    palette?: readonly (readonly number[])[]
    transparent?: boolean
    transparentIndex?: number
    /** ms */
    delay?: number
    /** 0 repeats for ever, −1 plays once. */
    repeat?: number
    dispose?: number
    /** Bits of an index. */
    colorDepth?: number
  }
  interface GifStream {
    writeFrame(indices: Uint8Array, width: number, height: number, options?: FrameOptions): void
    finish(): void
    bytes(): Uint8Array<ArrayBuffer>
    bytesView(): Uint8Array<ArrayBuffer>
  }
  export function GIFEncoder(options?: {
    initialCapacity?: number
    /** Whether the first frame is given the head of a file; as it is where left out. */
    auto?: boolean
  }): GifStream
  export function quantize(
    rgba: Uint8Array | Uint8ClampedArray,
    colours: number,
    options?: { format?: 'rgb565' | 'rgb444' | 'rgba4444'; oneBitAlpha?: boolean },
  ): number[][]
  export function applyPalette(rgba: Uint8Array | Uint8ClampedArray, palette: number[][], format?: string): Uint8Array
}
