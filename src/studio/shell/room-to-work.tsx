import type { ReactNode } from 'react'

/** The whole window; where that is smaller than what the views need, as when all is shown at twice its size, it scrolls and nothing is cut off. */
export const RoomToWork = ({ children }: { children: ReactNode }) => (
  <div className="h-dvh overflow-auto">
    <div className="h-full min-h-[34rem] min-w-[60rem]">{children}</div>
  </div>
)
