import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { type Case, casesOf } from '../bench/corpus/faults'
import { SCENES } from '../bench/corpus/scenes'
import { expect, Hands } from './app'

const SHAPE = { size: 96, frames: 24, delayMs: 40 }
/** A clip of the corpus, sound or with a fault. */
export function caseOf(scene: string, fault: string): Case {
  for (const each of casesOf(SCENES.find(({ name }) => name === scene) as (typeof SCENES)[number], SHAPE))
    if (each.fault === fault) return each
  throw new Error(`${scene} has no case: ${fault}`)
}

/** Drops a file of bytes on the page. */
export async function drop(page: Page, name: string, bytes: Uint8Array, type: string): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([fileName, base64, fileType]) => {
      const data = new DataTransfer()
      const raw = Uint8Array.from(atob(base64 as string), (letter) => letter.charCodeAt(0))
      data.items.add(new File([raw], fileName as string, { type: fileType as string }))
      return data
    },
    [name, Buffer.from(bytes).toString('base64'), type],
  )
  await page.dispatchEvent('main', 'drop', { dataTransfer: transfer })
}
/** Findings of the open file. */
export const found = (page: Page) => page.getByRole('complementary', { name: 'What is found' })
export const findings = (page: Page) => page.getByTestId('finding')

export const fixture = (name: string) => new Uint8Array(readFileSync(new URL(`fixtures/${name}`, import.meta.url)))

/** Writes the mended clip, and returns what was downloaded. */
export async function written(page: Page, hands = new Hands(page)): Promise<Uint8Array> {
  await hands.click(page.getByRole('button', { name: 'Write a GIF and prove it' }))
  await expect(page.getByTestId('proof')).toHaveAttribute('data-holds', 'true')
  const coming = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the GIF' }).click()
  const chunks: Buffer[] = []
  for await (const chunk of await (await coming).createReadStream()) chunks.push(chunk as Buffer)
  return new Uint8Array(Buffer.concat(chunks))
}
