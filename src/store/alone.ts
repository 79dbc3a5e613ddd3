/**
 * Runs something while no other tab does what asks for the same lock, where the browser can see to that. Whoever writes to the library asks
 * for its lock. Not to be asked for within itself.
 */
export const alone = <T>(work: () => Promise<T>, lock = 'cyclon library'): Promise<T> =>
  typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request(lock, work) : work()
