import { useExport } from '@/store/export'
import { pauseQueue, useQueue } from '@/store/queue'
import { runQueue } from '../run-queue'
import type { Command } from './command'

/** Commands about files that are written. */
export const FILE_COMMANDS: readonly Command[] = [
  {
    id: 'write-file',
    label: 'Write the file and prove it',
    section: 'File',
    keys: 'mod+enter',
    inFields: true,
    run: (go) => {
      useExport.setState({ tab: 'file', writeAsked: true })
      go('export')
    },
  },
  {
    id: 'fit-to-weight',
    label: 'Fit to a weight',
    section: 'File',
    run: (go) => {
      useExport.setState({ tab: 'weight' })
      go('export')
    },
  },
  {
    id: 'queue',
    label: 'Queue of files',
    section: 'File',
    run: (go) => {
      useExport.setState({ tab: 'queue' })
      go('export')
    },
  },
  {
    id: 'pause-queue',
    label: 'Pause the queue, or have it go on',
    section: 'File',
    run: () => (useQueue.getState().state === 'running' ? pauseQueue() : runQueue()),
  },
]
