import { type EXPORT_TABS, useExport } from '@/store/export'
import { pauseQueue, useQueue } from '@/store/queue'
import { runQueue } from '../run-queue'
import type { Command } from './command'

/** Shows a part of the view of files. */
const show =
  (tab: (typeof EXPORT_TABS)[number], more: { readonly writeAsked?: boolean } = {}): Command['run'] =>
  (go) => {
    useExport.setState({ tab, ...more })
    go('export')
  }

/** Commands about files that are written. */
export const FILE_COMMANDS: readonly Command[] = [
  {
    id: 'write-file',
    label: 'Write the file and prove it',
    section: 'File',
    keys: 'mod+enter',
    inFields: true,
    run: show('file', { writeAsked: true }),
  },
  { id: 'fit-to-weight', label: 'Fit to a weight', section: 'File', run: show('weight') },
  { id: 'queue', label: 'Queue of files', section: 'File', run: show('queue') },
  { id: 'data', label: 'Motions as data, models as glTF, a page to turn by hand', section: 'File', run: show('data') },
  {
    id: 'pause-queue',
    label: 'Pause the queue, or have it go on',
    section: 'File',
    run: () => (useQueue.getState().state === 'running' ? pauseQueue() : runQueue()),
  },
]
