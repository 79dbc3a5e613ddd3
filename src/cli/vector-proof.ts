import type { Proof } from '@/codecs'
import type { EncodeJob } from '@/codecs/write'
import { BROWSERS, openPage } from './browser'

/**
 * The proof of a vector file, which an installed Chromium, or a player of Lottie in it, shows at moments spread over the loop.
 * @param browsers where that may lie
 * @returns null where there is none
 */
export async function vectorProof(
  bytes: Uint8Array,
  {
    loop,
    settings,
    width,
    height,
    transparent,
  }: Pick<EncodeJob, 'loop' | 'settings' | 'width' | 'height' | 'transparent'>,
  browsers: readonly (string | undefined)[] = BROWSERS,
): Promise<Proof | null> {
  const page = await openPage(loop, width, height, browsers)
  if (!page) return null
  const file = new TextDecoder().decode(bytes)
  const proof = await page.ask('prove', file, settings, transparent).finally(page.end)
  return JSON.parse(proof) as Proof
}
