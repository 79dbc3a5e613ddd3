'use client'

import { useEffect, useRef } from 'react'
import type { Picture } from '@/core/image'

interface SampleProps {
  readonly width: number
  readonly height: number
  /** Draws it; another function draws it anew. */
  readonly draw: (width: number, height: number) => Picture
}

/** A small picture that is computed. */
export function Sample({ width, height, draw }: SampleProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const { data } = draw(width, height)
    const image = new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height)
    canvas.current?.getContext('2d')?.putImageData(image, 0, 0)
  }, [draw, width, height])
  return <canvas ref={canvas} width={width} height={height} className="block rounded-sm" aria-hidden="true" />
}
