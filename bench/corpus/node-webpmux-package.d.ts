/** The part of node-webpmux 3.2 that is used; the package ships no types. */
declare module 'node-webpmux' {
  interface Frame {
    readonly delay?: number
  }
  interface FrameSource {
    readonly buffer: Buffer
    /** In pairs of px. */
    readonly x?: number
    readonly y?: number
    readonly delay?: number | undefined
    /** False replaces what is there. */
    readonly blend?: boolean
    readonly dispose?: boolean
  }
  interface Animation {
    readonly frames: readonly Frame[]
    readonly width: number
    readonly height: number
    /** 0 is for ever. */
    readonly loops: number
    readonly bgColor: readonly number[]
  }
  const WebP: {
    readonly Image: {
      generateFrame(source: FrameSource): Promise<Frame>
      save(path: null, animation: Animation): Promise<Buffer>
    }
  }
  export default WebP
}
