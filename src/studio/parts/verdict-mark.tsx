'use client'

import type { Verdict } from '@/core/seam'
import { VERDICT_WORDS } from '@/core/seam/words'

/** The verdict as a shape and a word: a closed ring, a ring with a gap, a doubled, an empty or a dented one; `word` in place of its usual word. */
export function VerdictMark({ verdict, size = 16, word }: { verdict: Verdict; size?: number; word?: string }) {
  const good = verdict === 'closes'
  const colour = good ? 'text-accent' : verdict === 'still' ? 'dim' : 'text-error'
  return (
    <span className={`inline-flex items-center gap-1.5 font-semibold ${colour}`} data-verdict={verdict}>
      <svg
        width={size}
        height={size}
        viewBox="-10 -10 20 20"
        fill="none"
        stroke="currentColor"
        strokeWidth="2.4"
        aria-hidden="true"
      >
        {SHAPES[verdict]}
      </svg>
      {word ?? VERDICT_WORDS[verdict]}
    </span>
  )
}

const SHAPES: Record<Verdict, React.ReactNode> = {
  closes: (
    <>
      <circle r="7.5" />
      <circle cy="-7.5" r="2.4" fill="currentColor" stroke="none" />
    </>
  ),
  jumps: <path d="M-3.5 -6.6A7.5 7.5 0 1 0 5.6 -5" strokeLinecap="round" />,
  'repeats-a-frame': (
    <>
      <circle r="7.5" />
      <path d="M-2 -9.5v4M2 -9.5v4" strokeLinecap="round" />
    </>
  ),
  'blank-frame': <circle r="7.5" strokeDasharray="2.2 3.6" />,
  hesitates: <path d="M0 -3.5C5 -7 7.5 -3 7.5 0A7.5 7.5 0 0 1 -7.5 0C-7.5 -3 -5 -7 0 -3.5Z" />,
  still: <path d="M-7 0h14" strokeLinecap="round" />,
  'too-few-frames': (
    <>
      <circle cy="-6" r="1.8" />
      <circle cx="-5.5" cy="4" r="1.8" />
      <circle cx="5.5" cy="4" r="1.8" />
    </>
  ),
}
