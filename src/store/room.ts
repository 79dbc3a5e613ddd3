/** How much room the library takes in this browser, and whether the browser may take it back. */
export interface Room {
  /** Bytes of all that this site keeps, and the most that it may. */
  readonly used: number
  readonly allowed: number
  /** Whether the browser has promised to keep it until it is asked to let it go; else it may clear it where it runs short. */
  readonly kept: boolean
}

/** null where the browser does not say. */
export async function roomNow(): Promise<Room | null> {
  const storage = globalThis.navigator?.storage
  if (!storage?.estimate) return null
  const { usage, quota } = await storage.estimate()
  if (usage === undefined || !quota) return null
  return { used: usage, allowed: quota, kept: (await storage.persisted?.()) ?? false }
}

/** Asks the browser to keep what is stored; it decides by itself, or asks its user. @returns whether it will */
export const askToKeep = async (): Promise<boolean> => (await globalThis.navigator?.storage?.persist?.()) ?? false
