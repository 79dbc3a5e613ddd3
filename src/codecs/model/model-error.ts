/** A model cannot be read; the message says why and what can be done. */
export class ModelError extends Error {
  override readonly name = 'ModelError'
}
