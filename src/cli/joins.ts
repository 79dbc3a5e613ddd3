/** How the ends of a cut are joined. */
export const JOINS = ['cut', 'overlap', 'contrast', 'morph', 'parts', 'there-and-back'] as const
export type Join = (typeof JOINS)[number]
