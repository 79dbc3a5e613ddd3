'use client'

import { formatHex8 } from 'culori/fn'
import { useEffect, useRef } from 'react'
import { colourDistance } from '@/core/colour'

interface LoupeProps {
  /** The two frames at full size; null while they are fetched. */
  readonly bitmaps: readonly (ImageBitmap | null)[]
  readonly names: readonly string[]
  /** px of the picture */
  readonly size: { readonly width: number; readonly height: number }
  readonly at: { readonly x: number; readonly y: number } | null
  /** Which side is clear of the pointer. */
  readonly left: boolean
}

/** Pixels across the loupe, and how large each is shown. */
const ACROSS = 11
const LARGE = 9

let reading: OffscreenCanvasRenderingContext2D | null = null
/** The colour of one pixel, with its alpha. */
function valueAt(
  bitmap: ImageBitmap | null | undefined,
  { x, y }: { x: number; y: number },
  size: LoupeProps['size'],
): string | null {
  if (!bitmap || bitmap.width === 0) return null
  reading ??= new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })
  if (!reading) return null
  reading.clearRect(0, 0, 1, 1)
  const scale = bitmap.width / size.width
  reading.drawImage(bitmap, Math.floor(x * scale), Math.floor(y * scale), 1, 1, 0, 0, 1, 1)
  const [r = 0, g = 0, b = 0, a = 0] = reading.getImageData(0, 0, 1, 1).data
  return formatHex8({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255, alpha: a / 255 })
}

/** The pixels about the pointer in both frames, their values, and how far these lie apart. */
export function Loupe({ bitmaps, names, size, at, left }: LoupeProps) {
  const inside = at && at.x >= 0 && at.y >= 0 && at.x < size.width && at.y < size.height ? at : null
  const values = inside ? bitmaps.map((bitmap) => valueAt(bitmap, inside, size)) : []
  const [a, b] = values
  return (
    <aside
      className={`hairline pointer-events-none absolute top-2 ${left ? 'left-2' : 'right-2'} z-10 rounded-box border bg-base-100 p-2 text-2xs shadow-lg`}
      aria-label="Loupe"
      data-testid="loupe"
    >
      {!inside ? (
        <p className="dim w-52">Point at a picture: its pixels in both frames, and their values.</p>
      ) : (
        <>
          <p className="figures dim mb-1">
            x {inside.x}, y {inside.y}
          </p>
          <div className="flex gap-2">
            {bitmaps.slice(0, 2).map((bitmap, i) => (
              <figure key={names[i]}>
                <Patch bitmap={bitmap} at={inside} width={size.width} />
                <figcaption className="figures mt-0.5">
                  {values[i] ?? '…'}
                  <br />
                  <span className="dim">{names[i]}</span>
                </figcaption>
              </figure>
            ))}
          </div>
          <p className="figures mt-1">
            {a && b
              ? a === b
                ? 'alike'
                : `apart by ${colourDistance(a, b).toFixed(3)} in OKLab`
              : 'fetching the pixels …'}
          </p>
        </>
      )}
    </aside>
  )
}

function Patch({ bitmap, at, width }: { bitmap: ImageBitmap | null; at: { x: number; y: number }; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const side = ACROSS * LARGE
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, side, side)
    if (!bitmap || bitmap.width === 0) return
    context.imageSmoothingEnabled = false
    const half = (ACROSS - 1) / 2
    const scale = bitmap.width / width
    const from = { x: Math.floor(at.x * scale) - half, y: Math.floor(at.y * scale) - half }
    context.drawImage(bitmap, from.x, from.y, ACROSS, ACROSS, 0, 0, side, side)
    context.strokeStyle = 'white'
    context.strokeRect(half * LARGE + 0.5, half * LARGE + 0.5, LARGE - 1, LARGE - 1)
    context.strokeStyle = 'black'
    context.strokeRect(half * LARGE - 0.5, half * LARGE - 0.5, LARGE + 1, LARGE + 1)
  }, [bitmap, at, side, width])
  return <canvas ref={canvas} width={side} height={side} className="weave" aria-hidden="true" />
}
