import { create } from 'zustand'
import { useShallow } from 'zustand/react/shallow'
import type { Loop } from '@/core/document'
import type { MoveWanted } from '@/core/edit'
import { loadFaces } from '@/core/text'
import { documentStore, goInside, type History, openLoop, useOpenLoop, useOpenPart } from './document'

export type Pace = 1 | 0.5 | 0.25
/** The tool that places the pivot of the selected layer. No kind of layer is called so. */
export const PIVOT_TOOL = 'place the pivot'

/** The tools that draw paths: point by point, or along the pointer. */
export const PEN_TOOL = 'pen'
export const FREEHAND_TOOL = 'freehand'
/** The tool that records how a layer is dragged, in real time. */
export const RECORD_TOOL = 'record'

/** The tool that paints strokes on the selected layer. */
export const BRUSH_TOOL = 'brush tool'

/** The round brush that paints masks. */
export interface BrushSettings {
  /** Diameter, px of the layer. */
  readonly size: number
  /** Shares. */
  readonly softness: number
  readonly strength: number
  readonly erases: boolean
}

/**
 * Zoom: a multiple of the scale at which the whole frame fits, and the point of the frame in the middle of the stage.
 */
interface Zoom {
  readonly factor: number
  readonly x: number
  readonly y: number
}
export const MAX_STAGE_ZOOM = 64

/** State of the views; none of it is part of the document. */
interface Session {
  /** Ids of the selected layers, in the order in which they were picked. */
  readonly selection: readonly string[]
  /** The property whose motion is shown. */
  readonly property: string | null
  /** A loop that is shown in place of the open one, to see what a change would do. */
  readonly preview: Loop | null
  readonly playing: boolean
  readonly pace: Pace
  readonly aroundSeam: boolean
  /** Tool for the next drag on the stage: draws a kind of layer, places the pivot, or, if null, selects and moves. */
  readonly tool: string | typeof PIVOT_TOOL | null
  readonly brush: BrushSettings
  /** Whether the selected mask is shown as a tint on the stage. */
  readonly tint: boolean
  readonly snapping: boolean
  /** Whether the selected model is looked at from anywhere, too. */
  readonly freeView: boolean
  /** Whether the frame is laid beside itself on the stage, as a tile is. */
  readonly tiled: boolean
  /** Whether the stage shows the blur that the loop asks for. */
  readonly showBlur: boolean
  /** Whether the stage is shown without the panels round it. */
  readonly stageAlone: boolean
  /** Whether the panel of motions stays open while nothing that moves is selected. */
  readonly motionOpen: boolean
  /** How the frame lies on the stage; null where the whole of it is shown. */
  readonly zoom: Zoom | null
  /** The motion that was taken last, and on which layers: its numbers are at hand as long as they are selected. */
  readonly taken: { readonly ids: readonly string[]; readonly wanted: MoveWanted } | null
  /** Text searched for among the properties. */
  readonly sought: string
  /** Keys of the shown motion that are chosen, by their index. */
  readonly keys: readonly number[]
  /** Whether a loop of the library is being chosen to be placed. */
  readonly placing: boolean
  /** The id of the picture or clip whose edges are being healed; null where none is. */
  readonly healing: string | null
  /** Whether a variant of the loop is being made. */
  readonly varying: boolean
  /** Ids of pictures and clips that the shown frame has holes for. */
  readonly missing: readonly string[]
  /** Whether the tour is to begin, or to go on. */
  readonly tourAsked: boolean
  readonly commandList: boolean
  readonly shortcutSheet: boolean
}

export const useSession = create<Session>()(() => ({
  selection: [],
  property: null,
  preview: null,
  playing: false,
  pace: 1,
  aroundSeam: false,
  tool: null,
  brush: { size: 120, softness: 0.7, strength: 1, erases: false },
  tint: false,
  snapping: true,
  freeView: false,
  tiled: false,
  missing: [],
  showBlur: true,
  stageAlone: false,
  motionOpen: false,
  zoom: null,
  taken: null,
  sought: '',
  keys: [],
  placing: false,
  healing: null,
  varying: false,
  tourAsked: false,
  commandList: false,
  shortcutSheet: false,
}))

export const setSession = useSession.setState

/** Some parts of the session; a component that uses them is drawn anew only when one of them changes. */
export const useSessionParts = <K extends keyof Session>(...names: readonly K[]): Pick<Session, K> =>
  useSession(
    useShallow((session) => Object.fromEntries(names.map((name) => [name, session[name]])) as Pick<Session, K>),
  )

// Whoever takes up the tool for text will need outlines to set it in; where they cannot be fetched, drawing says so.
useSession.subscribe(({ tool }, { tool: before }) => {
  if (tool === 'text' && before !== tool) void loadFaces().catch(() => {})
})

// A preview shows what a change would do to the loop as it was; once that changes, it shows nothing true.
documentStore.subscribe(() => {
  if (useSession.getState().preview) setSession({ preview: null })
})

/** The frame that is shown while it stands still; `frameNow` tells it while it plays, too. */
export const usePlayhead = create<{ readonly frame: number }>()(() => ({ frame: 0 }))

/** Opens a loop with nothing selected, at its first frame. */
export function openInWorkspace(loop: Loop, history?: History): void {
  setSession({ selection: [], property: null, preview: null, playing: false, tool: null, zoom: null })
  usePlayhead.setState({ frame: 0 })
  openLoop(loop, history)
}

/** Opens a loop that is placed in the document to be worked on; null goes back to the document. */
export function openInside(id: string | null): void {
  setSession({ selection: [], property: null, preview: null, tool: null, zoom: null })
  goInside(id)
}

/** The loop to show: the preview where there is one. */
export const useShownLoop = (): Loop | null => {
  const open = useOpenLoop()
  const preview = useSession((session) => session.preview)
  return preview ?? open
}

/** A part of the loop to show; a component that uses it is drawn anew only when that changes. Null while none is open. */
export function useShownPart<T>(part: (loop: Loop) => T): T | null {
  const preview = useSession((session) => session.preview)
  const own = useOpenPart(part)
  return preview ? part(preview) : own
}

/** The frame while it stands still; while the loop plays, the one at which it was started. */
export const useStillFrame = (): number => {
  const playing = useSession((session) => session.playing)
  const frame = usePlayhead((playhead) => (playing ? -1 : playhead.frame))
  return frame < 0 ? usePlayhead.getState().frame : frame
}
