import { beforeEach, describe, expect, it } from 'vitest'
import type { Loop } from '@/core/document'
import { quay as loop } from '@/core/testing/quay'
import {
  beginGesture,
  changeLoop,
  currentHistory,
  documentStore,
  endGesture,
  openLoop,
  redo,
  UNDO_LIMIT,
  undo,
} from './document'

const rename = (name: string) => changeLoop((current) => ({ ...current, name }))
const name = () => documentStore.getState().loop?.name

describe('the open document', () => {
  beforeEach(() => openLoop(loop))

  it('undoes and redoes each change', () => {
    rename('a')
    rename('b')
    undo()
    expect(name()).toBe('a')
    undo()
    expect(name()).toBe('Quay')
    undo()
    expect(name()).toBe('Quay')
    redo()
    redo()
    expect(name()).toBe('b')
  })
  it('takes a gesture as one step', () => {
    beginGesture()
    for (const each of ['a', 'b', 'c']) rename(each)
    endGesture()
    expect(name()).toBe('c')
    expect(currentHistory().past).toHaveLength(1)
    undo()
    expect(name()).toBe('Quay')
  })
  it('leaves nothing of a gesture that is cancelled, nor of one that changed nothing', () => {
    rename('a')
    undo()
    beginGesture()
    rename('b')
    endGesture(true)
    beginGesture()
    endGesture()
    expect(name()).toBe('Quay')
    expect(currentHistory().future.map((each) => each.name)).toEqual(['a'])
  })
  it('ends a gesture that is under way when it is undone', () => {
    beginGesture()
    rename('a')
    undo()
    expect(name()).toBe('Quay')
    rename('b')
    expect(currentHistory().past).toHaveLength(1)
    redo()
    expect(name()).toBe('b')
  })
  it('does not count a change that changes nothing', () => {
    changeLoop((current) => current)
    expect(currentHistory().past).toEqual([])
  })
  it('keeps a bounded history', () => {
    for (let i = 0; i < UNDO_LIMIT + 20; i++) rename(`n${i}`)
    expect(currentHistory().past).toHaveLength(UNDO_LIMIT)
  })
  it('opens with the history that it is given', () => {
    const past: Loop[] = [{ ...loop, name: 'before' }]
    const future: Loop[] = [{ ...loop, name: 'after' }]
    openLoop(loop, { past, future })
    undo()
    expect(name()).toBe('before')
    redo()
    redo()
    expect(name()).toBe('after')
  })
})
