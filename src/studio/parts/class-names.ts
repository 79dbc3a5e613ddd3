export type ClassNameValue = string | false | null | undefined

/** Class names joined, leaving out those that are not to be. */
export const classNames = (...names: ClassNameValue[]): string => names.filter(Boolean).join(' ')
