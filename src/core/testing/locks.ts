/** Web locks within one process, as browsers have them between tabs: whoever asks for one that is held waits, or is told so (`ifAvailable`). */
export class Locks {
  private readonly queues = new Map<string, Promise<unknown>>()
  private readonly holders = new Map<string, number>()

  readonly request = async <T>(
    name: string,
    options: { readonly ifAvailable?: boolean } | ((lock: unknown) => Promise<T>),
    work?: (lock: unknown) => Promise<T>,
  ): Promise<T> => {
    const run = typeof options === 'function' ? options : (work as (lock: unknown) => Promise<T>)
    const isHeld = (this.holders.get(name) ?? 0) > 0
    if (typeof options !== 'function' && options.ifAvailable && isHeld) return run(null)
    this.holders.set(name, (this.holders.get(name) ?? 0) + 1)
    const turn = (this.queues.get(name) ?? Promise.resolve()).then(() => run({ name }))
    this.queues.set(
      name,
      turn.catch(() => {}),
    )
    try {
      return await turn
    } finally {
      this.holders.set(name, (this.holders.get(name) ?? 1) - 1)
    }
  }

  readonly query = async (): Promise<{ readonly held: readonly { readonly name: string }[] }> => ({
    held: [...this.holders].filter(([, count]) => count > 0).map(([name]) => ({ name })),
  })
}
