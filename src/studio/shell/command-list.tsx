'use client'

import { Command as List } from 'cmdk'
import { useRouter } from 'next/navigation'
import { useEffect, useState } from 'react'
import { loopNames } from '@/store/library'
import { setSession, useSession } from '@/store/session'
import { COMMANDS, keysText, type View } from '../commands'
import { type Meaning, meant, type Named } from '../commands/find'
import { Dialog, KeyCap } from '../parts'

const SECTIONS = ['Play', 'Layers', 'Arrange', 'Effects', 'Draw', 'Motion', 'Edit', 'Views', 'File'] as const

const LISTED = COMMANDS.filter(({ id }) => id !== 'commands')

/** Every command by name, layers, properties and the loops of the library, found by typing. */
export function CommandList({ go }: { go: (view: View) => void }) {
  const open = useSession((session) => session.commandList)
  const router = useRouter()
  const close = () => setSession({ commandList: false })
  return (
    <Dialog title="Commands" open={open} onClose={close}>
      <Found
        onTake={(command) => {
          close()
          if (command.href) router.push(command.href)
          else command.run(go)
        }}
      />
    </Dialog>
  )
}

function Found({ onTake }: { onTake: (meant: Meaning) => void }) {
  const [typed, setTyped] = useState('')
  const [library, setLibrary] = useState<readonly Named[]>([])
  // Where storage cannot be read, there are no others to open.
  useEffect(() => void loopNames().then(setLibrary, () => {}), [])
  const [found, setFound] = useState<readonly Meaning[] | null>(null)
  // The likeliest is chosen as soon as it is there.
  const [chosen, setChosen] = useState('')
  const type = (text: string) => {
    const words = text.trim()
    const likely = words ? meant(words, library) : null
    setTyped(text)
    setFound(likely)
    setChosen(likely?.[0]?.id ?? '')
  }
  const item = (command: Meaning) => (
    <List.Item
      key={command.id}
      value={command.id}
      onSelect={() => onTake(command)}
      className="flex cursor-pointer items-center justify-between rounded-field px-2 py-1 data-[selected=true]:bg-neutral data-[selected=true]:text-primary"
    >
      {command.label}
      {command.keys && <KeyCap>{keysText(command.keys)}</KeyCap>}
    </List.Item>
  )
  return (
    <List label="Commands" shouldFilter={false} value={chosen} onValueChange={setChosen}>
      <List.Input
        placeholder="Type what you want to do"
        className="input input-sm mb-2 w-full bg-base-200"
        value={typed}
        onValueChange={type}
      />
      <List.List className="max-h-80 overflow-y-auto">
        <List.Empty className="dim p-3">No command is called so.</List.Empty>
        {found
          ? found.map(item)
          : SECTIONS.map((section) => (
              <List.Group
                key={section}
                heading={section}
                className="[&_[cmdk-group-heading]]:dim [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-2xs"
              >
                {LISTED.filter((command) => command.section === section).map(item)}
              </List.Group>
            ))}
      </List.List>
    </List>
  )
}

/** The keys of all commands that have one. */
export function ShortcutSheet() {
  const open = useSession((session) => session.shortcutSheet)
  return (
    <Dialog title="Shortcuts" open={open} onClose={() => setSession({ shortcutSheet: false })} wide>
      <div className="columns-3 gap-6 text-xs">
        {SECTIONS.map((section) => (
          <section key={section} className="mb-3 break-inside-avoid">
            <h3 className="dim mb-1 text-2xs">{section}</h3>
            <dl>
              {COMMANDS.filter((command) => command.section === section && command.keys).map((command) => (
                <div key={command.id} className="flex items-center justify-between gap-2 py-0.5">
                  <dt>{command.label}</dt>
                  <dd>
                    <KeyCap>{keysText(command.keys ?? '')}</KeyCap>
                  </dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  )
}
