import { vi } from 'vitest'

/** Waits until a check holds, on a machine of any pace: the time only ends what will never come. */
export const eventually = <T>(check: () => T | Promise<T>): Promise<T> => vi.waitFor(check, { timeout: 480_000 })
