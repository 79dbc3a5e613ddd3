'use client'

import { Moon, Sun } from 'lucide-react'
import { useTheme } from 'next-themes'
import { useEffect, useState } from 'react'
import { IconButton } from '../parts'

/** The sign of the application: a ring that is closed by its seam. */
export function Brand() {
  return (
    <span className="flex items-center gap-2 text-sm font-semibold tracking-wide">
      <svg width="20" height="20" viewBox="-10 -10 20 20" fill="none" aria-hidden="true">
        <circle r="7" className="stroke-base-content" strokeWidth="2" />
        <path d="M0 -7A7 7 0 0 1 6.06 3.5" className="stroke-primary" strokeWidth="3.4" strokeLinecap="round" />
        <circle cy="-7" r="2.6" className="fill-accent" />
      </svg>
      Cyclon
    </span>
  )
}

/** Night or day. */
export function ThemeButton() {
  const { resolvedTheme, setTheme } = useTheme()
  const [known, setKnown] = useState(false)
  useEffect(() => setKnown(true), [])
  const night = !known || resolvedTheme !== 'day'
  return (
    <IconButton
      icon={night ? Sun : Moon}
      label={night ? 'Day theme' : 'Night theme'}
      onClick={() => setTheme(night ? 'day' : 'night')}
    />
  )
}
