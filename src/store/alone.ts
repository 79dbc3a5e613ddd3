/** Runs something while no other tab writes to the library, where the browser can see to that. Not to be asked for within itself. */
export const alone = <T>(work: () => Promise<T>): Promise<T> =>
  typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request('cyclon library', work) : work()
