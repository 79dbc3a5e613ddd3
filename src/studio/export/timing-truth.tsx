import { evenness, type FileFormat, type Fraction, fileTiming, formatRate, toNumber } from '@/core/clock'

/** Formats by the names that people know. */
export const FORMAT_NAMES: Readonly<Record<FileFormat, string>> = {
  gif: 'GIF',
  apng: 'APNG',
  webp: 'WebP',
  mp4: 'MP4',
  webm: 'WebM',
  'png-sequence': 'PNG sequence',
  'sprite-sheet': 'sprite sheet',
}

/** What the rate becomes in a file, in a sentence. */
function truth(format: FileFormat, length: number, rate: Fraction): string {
  const { delays, thinned, exact, rate: written } = fileTiming(format, length, rate)
  const own = formatRate(rate)
  const name = FORMAT_NAMES[format]
  const unit = format === 'gif' ? 'hundredths' : 'thousandths'
  if (thinned)
    return `Viewers of ${name} replace delays as short as those of ${own} frames per second. ${delays.length} evenly spaced frames are written instead, ${Number(written.toFixed(3))} per second, in the same time.`
  if (format === 'png-sequence') return 'Pictures do not say how long they are shown: the rate is yours to tell.'
  if (format === 'sprite-sheet') return `The JSON beside the sheet says ${own} frames per second, exactly.`
  if (format === 'mp4' || format === 'webm')
    return `${own} frames per second are exact${format === 'webm' ? ' to a thousandth of a second' : ''}. A video does not say that it repeats: that is up to its player.`
  if (exact)
    return format === 'apng'
      ? `${own} frames per second are exact: APNG writes a delay as a fraction.`
      : `${own} frames per second are exact in ${unit} of a second.`
  const shown = [...new Set(delays.map((delay) => Math.round(toNumber(delay) * (format === 'gif' ? 100 : 1000))))]
  return `${own} frames per second are not exact in ${unit}: delays of ${shown.sort((a, b) => a - b).join(' and ')} take turns. The time of the whole loop stays true.`
}

/** What the rate becomes in a file, said beforehand, with its delays as bars. */
export function TimingTruth({ format, length, rate }: { format: FileFormat; length: number; rate: Fraction }) {
  const { delays } = fileTiming(format, length, rate)
  const ms = delays.map((delay) => 1000 * toNumber(delay))
  const even = evenness(ms) > 1 - 1e-9
  const total = ms.reduce((sum, delay) => sum + delay, 0) / 1000
  const most = Math.max(...ms)
  const shown = ms.slice(0, 60)
  return (
    <div>
      <p className="figures">
        {delays.length} frames, {total.toFixed(2)} s in all
      </p>
      <svg
        className="my-1.5 w-full"
        height={26}
        viewBox={`0 0 ${shown.length * 5} 26`}
        preserveAspectRatio="none"
        role="img"
        aria-label={`Delays from ${Number(Math.min(...ms).toFixed(2))} to ${Number(most.toFixed(2))} thousandths of a second`}
      >
        {shown.map((delay, i) => (
          <rect
            key={i}
            x={i * 5 + 0.7}
            y={26 - (24 * delay) / most}
            width={3.6}
            height={(24 * delay) / most}
            className={even ? 'fill-accent/70' : 'fill-primary/70'}
          />
        ))}
      </svg>
      <p className="dim text-xs">{truth(format, length, rate)}</p>
    </div>
  )
}
