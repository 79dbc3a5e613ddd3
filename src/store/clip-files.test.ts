import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { clipAmong, isClipFile } from './clip-files'

describe('whether a file holds moving pictures', () => {
  it.each([
    ['a video, by its name or type', new File([''], 'tide.webm'), true],
    ['a video without an ending', new File([''], 'tide', { type: 'video/mp4' }), true],
    ['a damaged GIF, by its name', new File(['half'], 'lamp.gif'), true],
    ['a damaged PNG, which is no reason to open it as a clip', new File(['half'], 'lamp.png'), false],
    ['a loop', new File(['{}'], 'lamp.cyclon.json', { type: 'application/json' }), false],
  ])('%s', async (_what, file, moving) => expect(await isClipFile(file)).toBe(moving))
})

describe('files that are one clip', () => {
  const named = (name: string, bytes: Uint8Array | string = 'x') => new File([bytes as BlobPart], name)
  const inFolder = (path: string) => Object.assign(named(path.slice(path.lastIndexOf('/') + 1)), { path })
  const namesOf = async (files: readonly File[], open = false) => (await clipAmong(files, open)).map(({ name }) => name)
  const pixel = new Uint8Array([1])

  it('are moving pictures, whatever lies beside them', async () => {
    expect(await namesOf([named('quay.cyclon.json'), named('wake.mp4')], true)).toEqual(['wake.mp4'])
  })
  it('are the pictures of a folder; others only where no loop is open that they could become layers of', async () => {
    const folder = ['./wake/1.png', './wake/2.png', './wake/notes.txt'].map(inFolder)
    expect(await namesOf(folder, true)).toEqual(['1.png', '2.png'])
    const loose = [named('pier.jpg'), named('quay.jpg'), named('quay.cyclon.json')]
    expect(await namesOf(loose, true)).toEqual([])
    expect(await namesOf(loose)).toEqual(['pier.jpg', 'quay.jpg'])
  })
  it('are an archive of pictures, but no loop, and none that is broken', async () => {
    const pictures = zipSync({ 'wake/1.png': pixel, 'wake/2.png': pixel })
    expect(await namesOf([named('wake.zip', pictures)], true)).toEqual(['wake.zip'])
    expect(await namesOf([named('wake.cyclon.zip', pictures)])).toEqual([])
    expect(await namesOf([named('quay.zip', zipSync({ 'loop.cyclon.json': pixel, 'media/a.png': pixel }))])).toEqual([])
    expect(await namesOf([named('half.zip', pictures.slice(0, 60))])).toEqual([])
  })
})
