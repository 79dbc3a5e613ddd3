import { create } from 'zustand'
import { type FileSettings, PLAIN_SETTINGS } from '@/core/output'

export const EXPORT_TABS = ['file', 'weight', 'queue', 'data'] as const

/** How files are to be written; kept while one goes from view to view. */
interface ExportState {
  readonly settings: FileSettings
  readonly tab: (typeof EXPORT_TABS)[number]
  /** kB of 1000 bytes. */
  readonly limit: number
  /** Whether the file is to be written as soon as its view is there. */
  readonly writeAsked: boolean
  /** Ids of the loops that were chosen in the library to be written; none where nobody chose. */
  readonly chosen: readonly string[]
}

export const useExport = create<ExportState>()(() => ({
  settings: PLAIN_SETTINGS,
  tab: 'file',
  limit: 250,
  writeAsked: false,
  chosen: [],
}))

export const setSettings = (part: Partial<FileSettings>): void =>
  useExport.setState(({ settings }) => ({ settings: { ...settings, ...part } }))
