import * as bundled from 'gifenc'

/**
 * gifenc names its exports in its ESM build, which bundlers take; Node takes its CommonJS build, where they are
 * properties of the default export.
 */
export const { applyPalette, GIFEncoder, quantize } =
  'GIFEncoder' in bundled ? bundled : (bundled as { default: typeof bundled }).default
