'use client'

import { colourName } from '@/core/colour'
import type { Loop } from '@/core/document'
import { divisors } from '@/core/fit'
import { DITHERINGS, type Dithering, SHEET_SIDES } from '@/core/image'
import {
  BACKGROUNDS,
  CODEC_NAMES,
  canBeClear,
  canBeFine,
  type FileSettings,
  isVector,
  MAX_REPEATS,
  PALETTE_CHOICES,
  PRECISIONS,
  passesOf,
  VIDEO_CODECS,
} from '@/core/output'
import { ChoiceField, ColourField, NumberField } from '../parts'
import { Bands, LeftOut } from './format-notes'
import { FORMAT_NAMES } from './formats'

interface FormatOptionsProps {
  readonly settings: FileSettings
  readonly loop: Loop
  readonly onChange: (part: Partial<FileSettings>) => void
}

/** Options of a format besides its size. */
export function FormatOptions(props: FormatOptionsProps) {
  const { settings, loop, onChange } = props
  const { format } = settings
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
  const video = format === 'mp4' || format === 'webm'
  const withQuality = video || format === 'avif' || (format === 'webp' && !settings.lossless)
  return (
    <>
      {format === 'gif' && (
        <>
          {number('colours', settings.colours, 2, 256, 16, (colours) => onChange({ colours }))}
          <ChoiceField
            label="palettes"
            value={settings.palettes}
            options={PALETTE_CHOICES}
            names={{
              measured: 'measured: its own where a frame needs it',
              one: 'one for the loop',
              'per frame': 'one for each frame',
            }}
            onChange={(palettes) => onChange({ palettes })}
          />
          <ChoiceField
            label="dithering"
            value={settings.dithering}
            options={DITHERINGS}
            names={
              {
                ordered: 'ordered: fixed in the picture',
                diffusion: 'diffusion: finer, moves with what moves',
              } satisfies Partial<Record<Dithering, string>>
            }
            onChange={(dithering) => onChange({ dithering })}
          />
          {number('loss', settings.loss, 0, 64, 4, (loss) => onChange({ loss }))}
        </>
      )}
      {video && (
        <ChoiceField
          label="codec"
          value={settings.codec}
          options={VIDEO_CODECS[format]}
          names={CODEC_NAMES}
          onChange={(codec) => onChange({ codec })}
        />
      )}
      {format === 'webp' && (
        <Check label="without loss" checked={settings.lossless} onChange={(lossless) => onChange({ lossless })} />
      )}
      {withQuality && number('quality', settings.quality, 1, 100, 5, (quality) => onChange({ quality }))}
      {format === 'png-sequence' && (
        <>
          {number('first is', settings.firstNumber, 0, 99_999, 1, (firstNumber) => onChange({ firstNumber }))}
          <Passes {...props} />
        </>
      )}
      {format === 'sprite-sheet' && (
        <ChoiceField
          label="sides"
          value={settings.sides}
          options={SHEET_SIDES}
          onChange={(sides) => onChange({ sides })}
        />
      )}
      {!isVector(format) && (
        <>
          <ChoiceField
            label="frames"
            value={String(settings.every)}
            options={divisors(loop.length)
              .filter((each) => each <= 12)
              .map(String)}
            names={{ '1': 'all of them', '2': 'one of two', '3': 'one of three' }}
            onChange={(every) => onChange({ every: Number(every) })}
          />
          <Repeats {...props} />
        </>
      )}
      <Ground {...props} />
      {isVector(format) ? <LeftOut loop={loop} format={format} /> : <Bands {...props} />}
    </>
  )
}

export function Check({
  label,
  checked,
  onChange,
}: {
  label: React.ReactNode
  checked: boolean
  onChange: (checked: boolean) => void
}) {
  return (
    <label className="flex cursor-pointer items-center gap-2 pt-0.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  )
}

/** Once, a number of times, or often enough to fill a duration. */
function Repeats({ settings, loop, onChange }: FormatOptionsProps) {
  const once = (loop.length * loop.rate.den) / loop.rate.num
  const take = (repeats: number) => onChange({ repeats: Math.min(MAX_REPEATS, Math.max(1, Math.round(repeats))) })
  return (
    <div className="grid grid-cols-2 gap-2">
      <NumberField
        label="repeats"
        value={settings.repeats}
        unit=""
        step={1}
        min={1}
        max={MAX_REPEATS}
        context={loop}
        onChange={take}
      />
      <NumberField
        label="fills"
        value={settings.repeats * once}
        unit="seconds"
        step={once}
        min={once}
        max={MAX_REPEATS * once}
        context={loop}
        onChange={(seconds) => take(seconds / once)}
      />
    </div>
  )
}

/** Background of the loop in the file. */
function Ground({ settings, loop, onChange }: FormatOptionsProps) {
  const { format, background, matte } = settings
  const clear = canBeClear(settings)
  const shown = loop.background === null || background !== 'kept'
  const name = format === 'mp4' || format === 'webm' ? CODEC_NAMES[settings.codec] : FORMAT_NAMES[format]
  const label = background === 'a colour' || !clear ? 'colour' : 'edges on'
  const needsColour = background === 'a colour' || (shown && (!clear || format === 'gif'))
  return (
    <>
      <ChoiceField
        label="background"
        value={background}
        options={BACKGROUNDS}
        names={{
          kept: loop.background === null ? 'kept: none' : 'kept',
          removed: 'removed',
          'a colour': 'put on a colour',
        }}
        onChange={(next) => onChange({ background: next })}
      />
      {needsColour && (
        <ColourField
          label={label}
          value={matte}
          noneLabel={label === 'edges on' ? 'cut hard, mixed with nothing' : 'white'}
          onChange={(colour) =>
            onChange({ matte: loop.palette.find((own) => own.name === colourName(colour ?? ''))?.colour ?? colour })
          }
        />
      )}
      {!clear && shown && background !== 'a colour' && (
        <p className="dim text-xs">
          {name} has no transparency here: the loop is put on {matte ? 'this colour' : 'white'}.
        </p>
      )}
    </>
  )
}

function Passes({ settings, loop, onChange }: FormatOptionsProps) {
  const { passes } = settings
  return (
    <fieldset>
      <legend className="dim">passes, each in a folder of its own</legend>
      <div className="max-h-40 overflow-y-auto">
        {passesOf(loop).map(({ pass, label }) => (
          <Check
            key={pass}
            label={label}
            checked={passes.includes(pass)}
            onChange={(checked) => {
              const next = checked ? [...passes, pass] : passes.filter((each) => each !== pass)
              if (next.length > 0) onChange({ passes: next })
            }}
          />
        ))}
      </div>
      {canBeFine(passes) && (
        <ChoiceField
          label="depth, normals, occlusion, shadow in"
          options={PRECISIONS}
          value={settings.precision ?? PRECISIONS[0]}
          onChange={(precision) => onChange({ precision })}
        />
      )}
    </fieldset>
  )
}
