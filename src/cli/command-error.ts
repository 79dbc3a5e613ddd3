/** Something that was asked for and cannot be done, in words. */
export class CommandError extends Error {
  override readonly name = 'CommandError'
}
