import { nanoid } from 'nanoid'

/** An id that no other thing has. */
export const newId = (): string => nanoid(10)
