'use client'

import { toast } from 'sonner'
import { askToKeep, type Room } from '@/store/room'
import { tellTrouble } from '@/store/trouble'

const size = (bytes: number): string =>
  bytes < 1e6
    ? `${Math.ceil(bytes / 1e3)} kB`
    : bytes < 1e9
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${(bytes / 1e9).toFixed(1)} GB`

/** How full the browser's storage is, and the wish that it be kept. @param onAsked looks at it anew */
export function RoomMeter({ room, onAsked }: { room: Room; onAsked: () => Promise<void> }) {
  const share = room.used / room.allowed
  const keep = async () => {
    try {
      const kept = await askToKeep()
      await onAsked()
      if (kept) toast.success('The browser will keep the library until you clear it yourself.')
      else
        toast('The browser does not promise to keep the library.', {
          description:
            'It may clear it where it runs short of room. Save what matters to files; browsers promise more to sites that are visited often.',
          duration: 12_000,
        })
    } catch (error) {
      tellTrouble('The browser could not be asked to keep the library.', error)
    }
  }
  return (
    <div className="dim flex items-center gap-3 text-2xs" data-testid="room">
      <progress
        className="progress progress-accent h-1.5 w-28"
        max={1}
        value={share}
        aria-label="Room that the library takes"
      />
      <span className="figures">
        {size(room.used)} of {size(room.allowed)} that this browser allows
      </span>
      {room.kept ? (
        <span>kept until you clear it</span>
      ) : (
        <button type="button" className="link link-hover" onClick={() => void keep()}>
          Ask the browser to keep it
        </button>
      )}
    </div>
  )
}
