'use client'

import { useState } from 'react'
import { askClip, useClip } from '@/store/clip'

/** How large the file will be, told before it is written. */
export function Weight() {
  const { mends, working } = useClip()
  const [weight, setWeight] = useState<number | 'asked' | null>(null)
  const ask = async () => {
    setWeight('asked')
    const found = await askClip((service) => service.weight(mends)).catch(() => null)
    setWeight(found)
  }
  if (typeof weight === 'number')
    return (
      <p className="figures dim text-center text-xs" data-testid="weight">
        about {weight >= 1e6 ? `${(weight / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(weight / 1000))} kB`} as a
        GIF
      </p>
    )
  return (
    <button
      type="button"
      className="btn btn-ghost btn-xs w-full font-normal"
      disabled={weight === 'asked' || working !== null}
      onClick={() => void ask()}
    >
      {weight === 'asked' ? 'Weighing some frames …' : 'How large will it be?'}
    </button>
  )
}
