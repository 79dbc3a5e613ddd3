import type { Loop } from '../src/core/document'
import { planktonNight, spindrift } from './cinemagraphs'
import { beaconLoader, boardingBuoys, lensSweep, tideGauge, winchChain } from './loaders'
import { pierSheet } from './sheet'
import { buntingStripes, chartPaperClouds, harbourSwell } from './textures'
import { capstan, mooringBuoy, signalLamp } from './turntables'

/** The demo loops by file name. */
export const DEMO_LOOPS: Readonly<Record<string, () => Loop | Promise<Loop>>> = {
  'beacon-loader': beaconLoader,
  'boarding-buoys': boardingBuoys,
  'lens-sweep': lensSweep,
  'tide-gauge': tideGauge,
  'pier-sheet': pierSheet,
  'bunting-stripes': buntingStripes,
  'winch-chain': winchChain,
  'chart-paper-clouds': chartPaperClouds,
  'harbour-swell': harbourSwell,
  'plankton-night': planktonNight,
  spindrift,
  'mooring-buoy': mooringBuoy,
  capstan,
  'signal-lamp': signalLamp,
}
