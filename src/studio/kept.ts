/** What is kept in this browser beside loops, such as the sizes of panels: where storage is switched off, nothing is. */
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
