import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { ModelTimes } from './models-in-browser'

/** Passes that are written, as the application names them. */
const PASSES = ['models: wireframe', 'models: occlusion', 'models: depth']

/**
 * Passes of a model written and proven in one go, against one after the other, ms: as a user does it, on a page of the application, which draws each file
 * with a worker of its own.
 */
async function passTimes(page: Page, url: string): Promise<{ readonly together: number; readonly apart: number }> {
  await page.goto(url)
  await page.getByRole('button', { name: 'New loop' }).click()
  await page.getByLabel(/^turntable/).check()
  await page.getByLabel(/^its model/).setInputFiles('demo/loops/assets/capstan.glb')
  await page.getByLabel(/^width/).fill('480')
  await page.getByLabel(/^height/).fill('360')
  await page.getByLabel('length', { exact: true }).fill('24')
  await page.getByRole('button', { name: 'Make the loop' }).click()
  await page.getByTestId('turn-view').waitFor({ state: 'attached' })
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('button', { name: 'PNG sequence', exact: true }).click()
  const proof = page.getByTestId('proof')
  const written = async (passes: readonly string[]) => {
    for (const pass of passes) await page.getByLabel(pass, { exact: true }).check()
    for (const pass of ['picture', ...PASSES].filter((each) => !passes.includes(each)))
      await page.getByLabel(pass, { exact: true }).uncheck()
    const began = Date.now()
    await page.getByRole('button', { name: 'Write the PNG sequence and prove it' }).click()
    // The last one goes as soon as the next is begun.
    await proof.waitFor({ state: 'detached' })
    await proof.waitFor({ timeout: 600_000 })
    return Date.now() - began
  }
  let together = Number.POSITIVE_INFINITY
  let apart = Number.POSITIVE_INFINITY
  for (let time = 0; time < 2; time++) {
    together = Math.min(together, await written(PASSES))
    let sum = 0
    for (const pass of PASSES) sum += await written([pass])
    apart = Math.min(apart, sum)
  }
  return { together, apart }
}

/** The rows of the table about models. @param code the bundle of bench/models-in-browser.ts @param url of a page of the application */
export async function modelRows(page: Page, code: string, url: string): Promise<string[]> {
  const json = readFileSync('demo/loops/mooring-buoy.cyclon.json', 'utf8')
  const glb = [...readFileSync('demo/loops/assets/mooring-buoy.glb')]
  const { ours, bare, first } = await page.evaluate(
    ([script, loop, bytes]) => {
      const url = URL.createObjectURL(new Blob([script as string], { type: 'text/javascript' }))
      const worker = new Worker(url, { type: 'module' })
      return new Promise<ModelTimes>((resolve, reject) => {
        worker.onmessage = ({ data }) => resolve(data)
        worker.onerror = ({ message }) => reject(new Error(message))
        worker.postMessage([loop, Uint8Array.from(bytes as number[])])
      })
    },
    [code, json, glb] as const,
  )
  const { together, apart } = await passTimes(page, url)
  const against = (what: string, plain: string, a: number, b: number, goal: string) =>
    `| ${what} | ${plain} | ${a.toFixed(0)} ms against ${b.toFixed(0)} ms | ${(a / b).toFixed(2)} | ${goal} |`
  return [
    against(
      'a frame of Mooring buoy at 960×720 in a worker, soft shadow on the ground included',
      'a plain loop of three.js of the same scene, its soft shadow a picture that is there already, in the same worker',
      ours,
      bare,
      '≤ 1.1',
    ),
    against('the first frame of it, read, compiled and drawn', 'a later one', first, ours, ''),
    against(
      'wireframe, occlusion and depth of Capstan, 24 frames of 480×360, written and proven in one go',
      'the same one after the other',
      together,
      apart,
      '< 0.7',
    ),
  ]
}
