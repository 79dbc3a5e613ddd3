/** What settings may be; apart from their schema, so that a command line can say it at once. */

export const BACKGROUNDS = ['kept', 'removed', 'a colour'] as const
/** Sizes that a file may have, as multiples of the loop's. */
export const SCALES = { least: 0.05, most: 4 } as const
/** So often may a loop be repeated within one file. */
export const MOST_REPEATS = 1000
