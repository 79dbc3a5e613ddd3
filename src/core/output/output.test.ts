import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, FILE_FORMATS, fileTiming, fraction, toNumber } from '../clock'
import { formatLoop, type Loop, parseLoop } from '../document'
import { addModel, newLayer, newLoop, passesOver } from '../edit'
import { quay } from '../testing/quay'
import { testModel } from '../testing/test-model'
import {
  backgroundIn,
  cheaper,
  distinctNames,
  estimateSize,
  exactClocks,
  type FileSettings,
  frontOf,
  heldOnScreen,
  loopOfPass,
  namedBy,
  PLAIN_SETTINGS,
  passesOf,
  passFolder,
  pictureOfPass,
  sampleStarts,
  searchWeight,
  settingsFor,
  settingsSchema,
  TARGETS,
  targetSchema,
  timingIn,
  type Weighed,
  whatViewersDo,
  withFormat,
} from '.'

const anyRate = fc.constantFrom(...COMMON_RATES, ...Array.from({ length: 51 }, (_, i) => fraction(10 + i)))
const anyLength = fc.integer({ min: 1, max: 600 })
const anyFormat = fc.constantFrom(...FILE_FORMATS)

describe('the timing of a file', () => {
  it('lasts as long as the loop, as often as it is repeated, whatever is left out', () => {
    fc.assert(
      fc.property(
        anyRate,
        anyLength,
        anyFormat,
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 4 }),
        (rate, length, format, repeats, every) => {
          const settings: FileSettings = { ...PLAIN_SETTINGS, format, repeats, every: length % every === 0 ? every : 1 }
          const { delays, frames } = timingIn({ length, rate }, settings)
          const seconds = delays.reduce((sum, delay) => sum + toNumber(delay), 0)
          const tick = format === 'gif' ? 0.01 : format === 'webp' ? 0.001 : 1e-5 * length
          expect(Math.abs(seconds - (repeats * length) / toNumber(rate))).toBeLessThanOrEqual(repeats * tick * 0.51)
          expect(frames.length).toBe(delays.length)
          expect(frames[0]).toBe(0)
          for (const frame of frames) expect(frame).toBeLessThan(length)
        },
      ),
    )
  })
  it('leaves only frames of the loop where every so many is written', () => {
    const { frames } = timingIn(
      { length: 12, rate: fraction(24) },
      { ...PLAIN_SETTINGS, format: 'apng', every: 3, repeats: 2 },
    )
    expect(frames).toEqual([0, 3, 6, 9, 0, 3, 6, 9])
  })
})

describe('exact clocks', () => {
  it('say every delay, or the whole time, exactly, near the loop’s own', () => {
    fc.assert(
      fc.property(anyRate, anyLength, fc.constantFrom('gif' as const, 'webp' as const), (rate, length, format) => {
        const ticks = format === 'gif' ? 100 : 1000
        const found = exactClocks(format, length, rate)
        if (fileTiming(format, length, rate).exact) expect(found).toEqual([])
        for (const clock of found) {
          if (clock.exact === 'delays') expect(fileTiming(format, clock.length, clock.rate).exact).toBe(true)
          else expect(Number.isInteger((ticks * clock.length * clock.rate.den) / clock.rate.num)).toBe(true)
        }
      }),
    )
  })
  it('of 24 frames a second in a GIF are 25 and 20', () => {
    const found = exactClocks('gif', 48, fraction(24))
    expect(found.map(({ rate, length }) => [toNumber(rate), length])).toEqual([
      [25, 50],
      [20, 40],
    ])
  })
  it('of a length whose time is no whole hundredth are the lengths beside it', () => {
    const lengths = exactClocks('gif', 47, fraction(24)).filter(({ exact }) => exact === 'time')
    expect(lengths.map(({ length }) => length)).toEqual([42, 48])
  })
})

describe('what viewers do', () => {
  it('is said of every format', () => {
    for (const format of FILE_FORMATS)
      expect(whatViewersDo(format, fileTiming(format, 24, fraction(24))).length).toBeGreaterThan(0)
  })
  it('counts the pictures of a screen that frames are held for', () => {
    expect(heldOnScreen(fileTiming('mp4', 24, fraction(24)))).toEqual({ least: 2, most: 3 })
    expect(heldOnScreen(fileTiming('mp4', 30, fraction(30)))).toEqual({ least: 2, most: 2 })
  })
})

describe('settings', () => {
  it('are those of targets too, and of every format', () => {
    for (const target of TARGETS) expect(targetSchema.parse(target)).toEqual(target)
    for (const format of FILE_FORMATS)
      expect(settingsSchema.safeParse(withFormat(PLAIN_SETTINGS, format)).success).toBe(true)
    expect(withFormat(PLAIN_SETTINGS, 'webm').codec).toBe('vp9')
  })
  it('put a loop on a ground that its format can have', () => {
    const on = (background: string | null, more: Partial<FileSettings>) =>
      backgroundIn({ background }, { ...PLAIN_SETTINGS, ...more })
    expect(on('#123456', {})).toBe('#123456')
    expect(on('#123456', { background: 'removed' })).toBeNull()
    expect(on('#123456', { background: 'removed', format: 'mp4' })).toBe('white')
    expect(on(null, { background: 'a colour', matte: 'teal' })).toBe('teal')
    expect(on(null, { background: 'a colour' })).toBe('white')
    expect(on(null, { format: 'webm', codec: 'vp9' })).toBeNull()
    expect(on(null, { format: 'webm', codec: 'av1', matte: 'navy' })).toBe('navy')
    expect(on('#12345680', { format: 'mp4' })).toBe('white')
  })
})

describe('the size of a file', () => {
  it('follows from stretches of it where these are alike', () => {
    const { bytes, uncertainty } = estimateSize(
      [
        { one: 900, many: 1200, frames: 4 },
        { one: 900, many: 1200, frames: 4 },
      ],
      60,
    )
    expect(bytes).toBe(900 + 59 * 100)
    expect(uncertainty).toBe(bytes / 20)
  })
  it('is the more uncertain the more they differ', () => {
    const of = (many: number) =>
      estimateSize(
        [
          { one: 900, many: 1200, frames: 4 },
          { one: 900, many, frames: 4 },
        ],
        60,
      ).uncertainty
    expect(of(2400)).toBeGreaterThan(of(1500))
    expect(estimateSize([{ one: 900, many: 900, frames: 1 }], 1).bytes).toBe(900)
  })
  it('is sampled at its ends and between, never beyond', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 600 }), fc.integer({ min: 1, max: 6 }), (count, frames) => {
        const starts = sampleStarts(count, 4, frames)
        expect(starts[0]).toBe(0)
        for (const start of starts) expect(start + frames).toBeLessThanOrEqual(Math.max(count, frames))
      }),
    )
  })
})

describe('the search under a weight', () => {
  const loop = { length: 60, rate: fraction(30) }
  /** A made-up world in which each step spares a share and spoils a little. */
  const weigh = async (settings: FileSettings): Promise<Weighed> => ({
    settings,
    bytes:
      (400_000 * settings.scale ** 1.5 * (settings.colours / 256) ** 0.4 * (1 - settings.loss / 80)) / settings.every,
    error:
      8 * (1 - settings.scale) + 3 * Math.log2(256 / settings.colours) + settings.loss / 4 + 5 * (settings.every - 1),
    uncertainty: 0,
  })
  it('finds what stays under it, and its front is ordered in weight and error', async () => {
    for (const limit of [300_000, 120_000, 40_000]) {
      const points = await searchWeight(PLAIN_SETTINGS, loop, { limit, most: 80, enough: 5, weigh, found: () => {} })
      const front = frontOf(points)
      const under = front.filter(({ bytes }) => bytes <= limit)
      expect(under.length).toBeGreaterThan(0)
      for (let i = 1; i < front.length; i++) {
        expect((front[i] as Weighed).bytes).toBeLessThan((front[i - 1] as Weighed).bytes)
        expect((front[i] as Weighed).error).toBeGreaterThanOrEqual((front[i - 1] as Weighed).error)
      }
    }
  })
  it('takes what is light enough as it is', async () => {
    const points = await searchWeight(PLAIN_SETTINGS, loop, { limit: 1e6, most: 80, enough: 5, weigh, found: () => {} })
    expect(points).toHaveLength(1)
  })
  it('only ever leaves out frames by divisors of the length, and never below eight a second', () => {
    fc.assert(
      fc.property(anyLength, anyRate, (length, rate) => {
        let settings = PLAIN_SETTINGS
        for (;;) {
          const next = cheaper(settings, { length, rate }, 1).find(({ every }) => every !== settings.every)
          if (!next) break
          expect(length % next.every).toBe(0)
          expect(toNumber(rate) / next.every).toBeGreaterThanOrEqual(8)
          settings = next
        }
      }),
    )
  })
})

describe('names', () => {
  const parts = {
    loop: 'Beacon Loader',
    format: 'gif',
    size: '0.5x',
    width: '240',
    height: '240',
    rate: '30',
    frames: '60',
  }
  it('follow their pattern, in letters that every system takes', () => {
    expect(namedBy('{loop}-{width}x{height}', parts)).toBe('beacon-loader-240x240')
    expect(namedBy('quay/{loop} {size}:{what}', parts)).toBe('quay-beacon-loader-0.5x-what')
    expect(namedBy('../..', parts)).toBe('loop')
  })
  it('are never the same twice', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', 'A', 'a-2', 'b'), { maxLength: 12 }), (names) => {
        const full = distinctNames(
          names,
          names.map(() => '.gif'),
        ).map((name) => name.toLowerCase())
        expect(new Set(full).size).toBe(full.length)
      }),
    )
  })
})

describe('passes of models', () => {
  it('show every model at once and nothing else, without what lies over it for another pass', () => {
    const { loop, id } = addModel({ ...quay, width: 64, height: 48 }, testModel())
    const over = passesOver(loop, id)?.loop as Loop
    const sky = newLayer('ellipse', 'Sky', {}, 'sky')
    const all = { ...over, background: '#123456', layers: [sky, ...over.layers] }
    const names = passesOf(all).map(({ pass }) => pass)
    expect(names).toContain('models: occlusion')
    const shown = loopOfPass(all, 'models: depth')
    expect([shown.background, shown.layers.map(({ values }) => [values.pass, values.ground, values.turn])]).toEqual([
      null,
      [['depth', 'none', 0]],
    ])
    expect(passesOf(quay).some(({ pass }) => pass.startsWith('models'))).toBe(false)
    expect(settingsFor(quay, { ...PLAIN_SETTINGS, passes: ['models: depth'] }).passes).toEqual(['picture'])
  })
})

describe('passes', () => {
  const dot = newLayer('ellipse', 'Dot', {}, 'dot')
  const bar = newLayer('rectangle', 'Bar', {}, 'bar')
  const loop = {
    ...newLoop(
      { name: 'Quay', kind: 'loader', width: 40, height: 30, background: '#123456', rate: fraction(25), length: 10 },
      'quay',
    ),
    layers: [{ ...newLayer('group', 'Pair', {}, 'pair'), layers: [dot, bar] }, newLayer('ellipse', 'Lamp', {}, 'lamp')],
  }
  it('are the picture, its colours, its alpha, and every layer by itself', () => {
    expect(passesOf(loop).map(({ pass }) => pass)).toEqual(['picture', 'colour', 'alpha', 'pair', 'dot', 'bar', 'lamp'])
    expect(loopOfPass(loop, 'picture')).toBe(loop)
    const alone = loopOfPass(loop, 'bar')
    expect(alone.background).toBeNull()
    expect(alone.layers).toHaveLength(1)
    expect(alone.layers[0]?.layers?.map(({ id }) => id)).toEqual(['bar'])
    expect(loopOfPass(loop, 'gone').layers).toEqual([])
    expect(parseLoop(formatLoop(alone)).layers).toHaveLength(1)
  })
  it('that a loop does not have are left out of its settings, and so is a thinning that does not divide it', () => {
    const of = (passes: string[], every: number) => settingsFor(loop, { ...PLAIN_SETTINGS, passes, every })
    expect(of(['alpha', 'gone', 'lamp'], 5)).toMatchObject({ passes: ['alpha', 'lamp'], every: 5 })
    expect(of(['gone'], 3)).toMatchObject({ passes: ['picture'], every: 1 })
    expect(settingsFor(loop, PLAIN_SETTINGS)).toBe(PLAIN_SETTINGS)
  })
  it('keep what masks a layer', () => {
    const masked = {
      ...loop,
      layers: [{ ...newLayer('group', 'Pair', { mask: 'shape' }, 'pair'), layers: [dot, bar] }],
    }
    expect(loopOfPass(masked, 'dot').layers[0]?.layers?.map(({ id }) => id)).toEqual(['dot', 'bar'])
  })
  it('show colours without alpha, and alpha as grey', () => {
    const picture = { width: 1, height: 1, data: Uint8ClampedArray.of(10, 20, 30, 128) }
    expect([...pictureOfPass(picture, 'colour').data]).toEqual([10, 20, 30, 255])
    expect([...pictureOfPass(picture, 'alpha').data]).toEqual([128, 128, 128, 255])
    expect(pictureOfPass(picture, 'lamp')).toBe(picture)
  })
  it('have folders of their own where there are several', () => {
    expect(passFolder(['picture'], 0)).toBe('')
    expect(passFolder(['picture', 'layer/1'], 1)).toBe('01-layer-1/')
  })
})
