/** A weight from 0 to 1 with zero slope at both ends: 3t² − 2t³, for t from 0 to 1. */
export const smoothstep = (t: number): number => t * t * (3 - 2 * t)
