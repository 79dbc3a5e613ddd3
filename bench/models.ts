import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import type { ModelTimes } from './models-in-browser'

/** The rows of the table about models. @param code the bundle of bench/models-in-browser.ts */
export async function modelRows(page: Page, code: string): Promise<string[]> {
  const json = readFileSync('demo/loops/mooring-buoy.cyclon.json', 'utf8')
  const glb = [...readFileSync('demo/models/mooring-buoy.glb')]
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
  const against = (what: string, plain: string, a: number, b: number, goal: string) =>
    `| ${what} | ${plain} | ${a.toFixed(0)} ms against ${b.toFixed(0)} ms | ${(a / b).toFixed(2)} | ${goal} |`
  return [
    against(
      'a frame of Mooring buoy at 960×720 in a worker, soft shadow on the ground included',
      'a plain loop of three.js of the same scene, without that shadow, in the same worker',
      ours,
      bare,
      '≤ 1.1',
    ),
    against('the first frame of it, read, compiled and drawn', 'a later one', first, ours, ''),
  ]
}
