/** The files that single pictures are kept in. */
export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const
export type PictureType = (typeof PICTURE_TYPES)[number]

/** The longest side of a picture or clip that a document holds, px. */
export const MAX_SIDE_PX = 4 * 8192
