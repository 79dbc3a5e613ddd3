/** Settings kept in this browser besides loops, such as sizes of panels; without storage nothing is kept. */
export const kept = {
  getItem: (key: string): string | null => {
    try {
      return localStorage.getItem(key)
    } catch {
      return null
    }
  },
  setItem: (key: string, value: string): void => {
    try {
      localStorage.setItem(key, value)
    } catch {
      // It is as it was to begin with the next time.
    }
  },
  removeItem: (key: string): void => {
    try {
      localStorage.removeItem(key)
    } catch {
      // There is nothing to take away.
    }
  },
}
