'use client'

import { useState } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import type { FrameStore } from '@/store/frames'
import { useShownLoop } from '@/store/session'
import { Transport } from '../playback'
import { Dial } from './dial/dial'
import { LayerList } from './layer-list/layer-list'
import { MotionPanel } from './motion/motion-panel'
import { PropertyPanel } from './properties/property-panel'
import { InsideBar } from './stage/inside-bar'
import { Stage } from './stage/stage'
import { PlaceLoopDialog } from './tools/place-loop-dialog'
import { ToolBar } from './tools/tool-bar'

const Divider = ({ upright }: { upright?: boolean }) => (
  <Separator className={`bg-base-300 transition-none hover:bg-accent ${upright ? 'w-px' : 'h-px'}`} />
)

/** The stage with direct handles, time as a dial, layers, properties, and the motion of the chosen property. */
export function ComposeView() {
  const loop = useShownLoop()
  const [frames, setFrames] = useState<FrameStore | null>(null)
  if (!loop) return null
  return (
    <Group orientation="horizontal" id="compose" className="h-full">
      <Panel defaultSize="23.4%" minSize={244} maxSize={460} groupResizeBehavior="preserve-pixel-size">
        <div className="flex h-full min-h-0 flex-col bg-base-100">
          <div className="mx-auto aspect-square max-h-[45%] min-h-0 w-full p-2">
            <Dial loop={loop} frames={frames} />
          </div>
          <div className="hairline border-y">
            <Transport loop={loop} frames={frames} />
          </div>
          <div className="min-h-0 flex-1">
            <LayerList loop={loop} />
          </div>
        </div>
      </Panel>
      <Divider upright />
      <Panel minSize={400}>
        <Group orientation="vertical" id="compose-middle">
          <Panel minSize={180}>
            <div className="flex h-full min-h-0 flex-col">
              <ToolBar />
              <InsideBar />
              <div className="min-h-0 flex-1">
                <Stage onFrames={setFrames} />
              </div>
            </div>
          </Panel>
          <Divider />
          <Panel defaultSize={296} minSize={150} groupResizeBehavior="preserve-pixel-size">
            <MotionPanel loop={loop} />
          </Panel>
        </Group>
      </Panel>
      <Divider upright />
      <Panel defaultSize="20.5%" minSize={226} maxSize={420} groupResizeBehavior="preserve-pixel-size">
        <PropertyPanel loop={loop} />
      </Panel>
      <PlaceLoopDialog />
    </Group>
  )
}
