'use client'

import type { FileFormat } from '@/core/clock'
import { DITHERINGS, type Dithering, SHEET_SIDES } from '@/core/image'
import type { Loop } from '@/core/loop'
import { CODEC_NAMES, VIDEO_CODECS } from '@/workers/encoders/job'
import type { ExportOptions } from '@/workers/export.worker'
import { ChoiceField, NumberField } from '../parts'

interface FormatOptionsProps {
  readonly format: FileFormat
  readonly options: ExportOptions
  readonly loop: Loop
  readonly onChange: (part: Partial<ExportOptions>) => void
}

/** What can be chosen for a format, beside its size. */
export function FormatOptions({ format, options, loop, onChange }: FormatOptionsProps) {
  const number = (label: string, value: number, min: number, max: number, step: number, take: (n: number) => void) => (
    <NumberField
      label={label}
      value={value}
      unit=""
      step={step}
      min={min}
      max={max}
      context={loop}
      onChange={(next) => take(Math.round(next))}
    />
  )
  const check = (label: React.ReactNode, checked: boolean, take: (checked: boolean) => void) => (
    <label className="flex cursor-pointer items-center gap-2 pt-1">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={checked}
        onChange={(event) => take(event.target.checked)}
      />
      {label}
    </label>
  )
  const isVideo = format === 'mp4' || format === 'webm'
  const canBeClear = !isVideo || (format === 'webm' && options.codec === 'vp9')
  return (
    <>
      {format === 'gif' && (
        <>
          {number('colours', options.colours, 2, 256, 16, (colours) => onChange({ colours }))}
          <ChoiceField
            label="dithering"
            value={options.dithering}
            options={DITHERINGS}
            names={
              {
                ordered: 'ordered — a still region stays still',
                diffusion: 'diffusion — finer, but crawls',
              } satisfies Partial<Record<Dithering, string>>
            }
            onChange={(dithering) => onChange({ dithering })}
          />
        </>
      )}
      {isVideo && (
        <ChoiceField
          label="codec"
          value={options.codec}
          options={VIDEO_CODECS[format]}
          names={CODEC_NAMES}
          onChange={(codec) => onChange({ codec })}
        />
      )}
      {format === 'webp' && check('without loss', options.lossless, (lossless) => onChange({ lossless }))}
      {(isVideo || (format === 'webp' && !options.lossless)) &&
        number('quality', options.quality, 1, 100, 5, (quality) => onChange({ quality }))}
      {format === 'png-sequence' &&
        number('first is', options.firstNumber, 0, 99_999, 1, (firstNumber) => onChange({ firstNumber }))}
      {format === 'sprite-sheet' && (
        <ChoiceField
          label="sides"
          value={options.sides}
          options={SHEET_SIDES}
          onChange={(sides) => onChange({ sides })}
        />
      )}
      {canBeClear ? (
        check(
          <>transparent {loop.background === null ? '' : <span className="dim">— leaves the background out</span>}</>,
          options.transparent,
          (transparent) => onChange({ transparent }),
        )
      ) : (
        <p className="dim text-xs">{CODEC_NAMES[options.codec]} has no transparency.</p>
      )}
      {loop.background === null && !(options.transparent && canBeClear) && (
        <p className="dim text-xs">Not transparent: it is put on white.</p>
      )}
    </>
  )
}
