import localforage from 'localforage'

const DATABASE = 'cyclon'

/** All that is stored in this browser, each kind in a store of its own. */
export const STORES = [
  'loops',
  'histories',
  'notes',
  'assets',
  'media',
  'verdicts',
  'queue',
  'targets',
  'plans',
] as const
export type StoreName = (typeof STORES)[number]

/** The library tries out in this one whether blobs can be kept, once in the life of a database. */
const TRIED_IN = 'local-forage-detect-blob-support'

const done = (request: IDBOpenDBRequest, upgrade?: (database: IDBDatabase) => void): Promise<IDBDatabase> =>
  new Promise((resolve, reject) => {
    request.onupgradeneeded = () => upgrade?.(request.result)
    request.onsuccess = () => resolve(request.result)
    request.onerror = () => reject(request.error)
  })

/**
 * Makes all stores that are not there yet, at once. Each that is made on its own, when it is first used, closes the database under those that are in use:
 * two at a time can wait for each other for ever.
 */
async function makeStores(): Promise<void> {
  const wanted = [...STORES, TRIED_IN]
  const make = (database: IDBDatabase) => {
    for (const name of wanted) if (!database.objectStoreNames.contains(name)) database.createObjectStore(name)
  }
  const found = await done(indexedDB.open(DATABASE), make)
  const { version, objectStoreNames } = found
  const isWhole = wanted.every((name) => objectStoreNames.contains(name))
  found.close()
  if (!isWhole) (await done(indexedDB.open(DATABASE, version + 1), make)).close()
}

let made: Promise<void> | null = null

/** A store of this browser. Where storage cannot be used, whatever is asked of it says so. */
export function storeOf(storeName: StoreName): LocalForage {
  const store = localforage.createInstance({ name: DATABASE, storeName })
  return new Proxy(store, {
    get(target, name) {
      const own = Reflect.get(target, name)
      if (typeof own !== 'function') return own
      return async (...args: unknown[]) => {
        made ??= makeStores()
        // If the stores cannot be made, using the store reports it in its own words.
        await made.catch(() => {
          made = null
        })
        return Reflect.apply(own, target, args)
      }
    },
  })
}
