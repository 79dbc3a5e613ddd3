import { toast } from 'sonner'
import type { Command } from './command'

/** Comes when something is copied or pasted first. */
const clipboard = () => import('../clipboard')
const run = (what: 'copy' | 'cut' | 'paste') => () => {
  clipboard()
    .then((module) => module[what]())
    .catch((error) => toast.error((error as Error).message))
}

export const CLIPBOARD_COMMANDS: readonly Command[] = [
  {
    id: 'copy',
    label: 'Copy the chosen keys, or the selected layers',
    section: 'Edit',
    keys: 'mod+c',
    run: run('copy'),
  },
  { id: 'cut', label: 'Cut the selected layers', section: 'Edit', keys: 'mod+x', run: run('cut') },
  {
    id: 'paste',
    label: 'Paste keys at the playhead, layers, or a drawing',
    section: 'Edit',
    keys: 'mod+v',
    systemKeys: true,
    run: run('paste'),
  },
]
