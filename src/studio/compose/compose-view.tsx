'use client'

import { memo, type ReactNode, useDeferredValue, useEffect, useRef, useState } from 'react'
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels'
import { findLayer, type Loop } from '@/core/document'
import { movingNames } from '@/core/edit'
import type { FrameStore } from '@/store/frames'
import { useSessionParts, useShownLoop, useShownPart } from '@/store/session'
import { kept } from '../kept'
import { Transport } from '../playback'
import { Dial } from './dial/dial'
import { LayerList } from './layer-list/layer-list'
import { MotionLine } from './motion/motion-line'
import { MotionPanel } from './motion/motion-panel'
import { PropertyPanel } from './properties/property-panel'
import { InsideBar } from './stage/inside-bar'
import { Stage } from './stage/stage'
import { PlaceLoopDialog } from './tools/place-loop-dialog'
import { ToolBar } from './tools/tool-bar'

const Divider = ({ upright }: { upright?: boolean }) => (
  <Separator className={`bg-base-300 transition-none hover:bg-accent ${upright ? 'w-px' : 'h-px'}`} />
)

/** A value as it is when no button of the pointer is held: what is dragged does not slip from under it. */
function useOncePointerUp<T>(value: T): T {
  const [settled, setSettled] = useState(value)
  const held = useRef(false)
  const latest = useRef(value)
  latest.current = value
  useEffect(() => {
    const onDown = () => {
      held.current = true
    }
    const onUp = () => {
      held.current = false
      setSettled(latest.current)
    }
    window.addEventListener('pointerdown', onDown, true)
    for (const name of ['pointerup', 'pointercancel', 'blur']) window.addEventListener(name, onUp)
    return () => {
      window.removeEventListener('pointerdown', onDown, true)
      for (const name of ['pointerup', 'pointercancel', 'blur']) window.removeEventListener(name, onUp)
    }
  }, [])
  useEffect(() => {
    if (!held.current) setSettled(value)
  }, [value])
  return settled
}

/** Sizes of panels as they were left in this browser. */
function useKeptLayout(id: string, panelIds: string[]) {
  const { defaultLayout, onLayoutChanged } = useDefaultLayout({
    id,
    panelIds,
    storage: kept,
    onlySaveAfterUserInteractions: true,
  })
  return { id, onLayoutChanged, ...(defaultLayout && { defaultLayout }) }
}

/** A panel with the loop that is shown; what stands around it is not drawn anew with it. */
function Shown({ children }: { children: (loop: Loop) => ReactNode }) {
  const loop = useShownLoop()
  return loop && children(loop)
}

/** The same for what may follow a frame later: what is looked at and typed into comes first. */
function ShownLater({ children }: { children: (loop: Loop) => ReactNode }) {
  const loop = useDeferredValue(useShownLoop())
  return loop && children(loop)
}

const LaterDial = memo(Dial)
const LaterList = memo(LayerList)

/** The stage with direct handles, time as a dial, layers, properties, and the motion of the chosen property. */
export function ComposeView() {
  const [frames, setFrames] = useState<FrameStore | null>(null)
  const { selection, stageAlone, motionOpen } = useSessionParts('selection', 'stageAlone', 'motionOpen')
  // With nothing selected that moves the stage takes the room, and the motions are a line.
  const [only] = selection
  const chosen = selection.length === 1 ? only : undefined
  const state = useShownPart((loop) => {
    const layer = chosen === undefined ? undefined : findLayer(loop, chosen)
    return layer && movingNames(layer).length > 0 ? 'moves' : 'rests'
  })
  const folded = useOncePointerUp(!motionOpen && state === 'rests')
  const across = useKeptLayout(
    'compose',
    stageAlone ? ['middle-panel'] : ['time-panel', 'middle-panel', 'properties-panel'],
  )
  const down = useKeptLayout('compose-middle', stageAlone || folded ? ['stage-panel'] : ['stage-panel', 'motion-panel'])
  if (!state) return null
  return (
    <Group orientation="horizontal" {...across} className="h-full">
      {!stageAlone && (
        <>
          <Panel
            id="time-panel"
            defaultSize="23.4%"
            minSize={244}
            maxSize={460}
            groupResizeBehavior="preserve-pixel-size"
          >
            <div className="flex h-full min-h-0 flex-col bg-base-100">
              <div className="mx-auto aspect-square max-h-[45%] min-h-0 w-full p-2">
                <ShownLater>{(loop) => <LaterDial loop={loop} frames={frames} />}</ShownLater>
              </div>
              <div className="hairline border-y">
                <Shown>{(loop) => <Transport loop={loop} frames={frames} />}</Shown>
              </div>
              <div className="min-h-0 flex-1">
                <ShownLater>{(loop) => <LaterList loop={loop} />}</ShownLater>
              </div>
            </div>
          </Panel>
          <Divider upright />
        </>
      )}
      <Panel id="middle-panel" minSize={400}>
        <div className="flex h-full min-h-0 flex-col">
          <div className="min-h-0 flex-1">
            <Group orientation="vertical" {...down}>
              <Panel id="stage-panel" minSize={180}>
                <div className="flex h-full min-h-0 flex-col">
                  {!stageAlone && <ToolBar />}
                  <InsideBar />
                  <div className="min-h-0 flex-1">
                    <Stage onFrames={setFrames} />
                  </div>
                </div>
              </Panel>
              {!stageAlone && !folded && (
                <>
                  <Divider />
                  <Panel id="motion-panel" defaultSize={296} minSize={150} groupResizeBehavior="preserve-pixel-size">
                    <Shown>{(loop) => <MotionPanel loop={loop} />}</Shown>
                  </Panel>
                </>
              )}
            </Group>
          </div>
          {!stageAlone && folded && (
            <Shown>{(loop) => <MotionLine loop={loop} layer={chosen ? findLayer(loop, chosen) : undefined} />}</Shown>
          )}
        </div>
      </Panel>
      {!stageAlone && (
        <>
          <Divider upright />
          <Panel
            id="properties-panel"
            defaultSize="20.5%"
            minSize={264}
            maxSize={420}
            groupResizeBehavior="preserve-pixel-size"
          >
            <Shown>{(loop) => <PropertyPanel loop={loop} />}</Shown>
          </Panel>
        </>
      )}
      <PlaceLoopDialog />
    </Group>
  )
}
