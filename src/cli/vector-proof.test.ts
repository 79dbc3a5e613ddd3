import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { svgOf } from '@/codecs/write'
import { parseLoop } from '@/core/document'
import { PLAIN_SETTINGS } from '@/core/output'
import { vectorProof } from './vector-proof'

const loop = parseLoop(readFileSync('demo/loops/beacon-loader.cyclon.json', 'utf8'))
const { width, height } = loop
const job = { loop, settings: { ...PLAIN_SETTINGS, format: 'svg' as const }, width, height, transparent: false }
const svg = svgOf(loop)
const proven = (text: string, browsers?: readonly string[]) =>
  vectorProof(new TextEncoder().encode(text), job, browsers)
const broken = async (text: string) => (await proven(text))?.lines.filter(({ holds }) => !holds).map(({ what }) => what)

it('a vector file is proven by an installed Chromium, which shows it', async () => {
  expect(await proven(svg)).toMatchObject({ holds: true, seam: { verdict: 'closes' } })
})
it.each([
  ['takes four seconds', svg.replace(/dur="[^"]*"/g, 'dur="4s"'), 'time of one loop'],
  ['stands still', svg.replace(/<animate(Transform)? [^>]*\/>/g, ''), 'pixels'],
  ['lacks a part', svg.replace(/<path(?![\s\S]*<path)[\s\S]*?(<\/path>|\/>)/, ''), 'every spot'],
])('one that %s is told', async (_, text, line) => {
  expect(text).not.toBe(svg)
  expect(await broken(text)).toContain(line)
})
it('where there is none, there is no proof', async () => expect(await proven(svg, ['/nowhere/chromium'])).toBeNull())
