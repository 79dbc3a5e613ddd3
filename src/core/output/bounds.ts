/** Allowed settings, apart from their schema, so that the command line can load them at once. */

export const BACKGROUNDS = ['kept', 'removed', 'a colour'] as const
/** Sizes that a file may have, as multiples of the loop's. */
export const SCALES = { least: 0.05, most: 4 } as const
/** A loop may be repeated at most this often within one file. */
export const MAX_REPEATS = 1000
