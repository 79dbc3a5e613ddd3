'use client'

import { type LucideIcon, X } from 'lucide-react'
import { useEffect, useId, useRef } from 'react'
import { classNames } from './class-names'

interface IconButtonProps {
  readonly icon: LucideIcon
  readonly label: string
  readonly onClick: (event: React.MouseEvent) => void
  /** Said behind the label in the tooltip. */
  readonly shortcut?: string | undefined
  readonly pressed?: boolean
  readonly disabled?: boolean
  readonly className?: string
}

/** A small button with an icon; its label is its name and its tooltip. */
export function IconButton({ icon: Icon, label, onClick, shortcut, pressed, disabled, className }: IconButtonProps) {
  return (
    <button
      type="button"
      className={classNames('btn btn-ghost btn-xs btn-square', pressed && 'bg-neutral text-primary', className)}
      aria-label={label}
      title={shortcut ? `${label} (${shortcut})` : label}
      {...(pressed === undefined ? {} : { 'aria-pressed': pressed })}
      disabled={disabled}
      onClick={onClick}
    >
      <Icon size={15} aria-hidden="true" />
    </button>
  )
}

interface ChoiceFieldProps<T extends string> {
  readonly label: string
  readonly value: T
  readonly options: readonly T[]
  readonly onChange: (value: T) => void
  readonly names?: Partial<Record<T, string>>
  readonly hideLabel?: boolean
  readonly className?: string
  /** Called before the options are shown. */
  readonly onOpen?: () => void
}

/** One of a few words. */
export function ChoiceField<T extends string>(props: ChoiceFieldProps<T>) {
  const { label, value, options, onChange, names, hideLabel, className, onOpen } = props
  const id = useId()
  return (
    <div className={classNames('flex min-w-0 items-center gap-1.5', className)}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'dim w-19 shrink-0 truncate'}>
        {label}
      </label>
      <select
        id={id}
        className="select select-xs w-full min-w-0 bg-transparent ps-1.5"
        value={value}
        onFocus={onOpen}
        onPointerDown={onOpen}
        onChange={(event) => onChange(event.target.value as T)}
      >
        {options.map((option) => (
          <option key={option} value={option} className="bg-base-100 text-base-content">
            {names?.[option] ?? option}
          </option>
        ))}
      </select>
    </div>
  )
}

interface DialogProps {
  readonly title: string
  readonly open: boolean
  readonly onClose: () => void
  readonly children: React.ReactNode
  readonly wide?: boolean
}

/** A modal dialog; Escape and a press outside close it. */
export function Dialog({ title, open, onClose, children, wide }: DialogProps) {
  const dialog = useRef<HTMLDialogElement>(null)
  const heading = useId()
  // That it was closed is told later: who has opened it again meanwhile is not to be closed by that.
  const closedHere = useRef(0)
  useEffect(() => {
    if (open) {
      dialog.current?.showModal()
      dialog.current?.querySelector<HTMLElement>('input')?.focus()
    } else if (dialog.current?.open) {
      closedHere.current++
      dialog.current.close()
    }
  }, [open])
  const onClosed = () => {
    if (closedHere.current > 0) closedHere.current--
    else onClose()
  }
  return (
    <dialog ref={dialog} className="modal" aria-labelledby={heading} onClose={onClosed}>
      {open && (
        <div className={classNames('modal-box hairline border bg-base-100 p-5', wide ? 'max-w-4xl' : 'max-w-lg')}>
          <div className="mb-3 flex items-start justify-between gap-3">
            <h2 id={heading} className="text-lg font-semibold">
              {title}
            </h2>
            <IconButton icon={X} label="Close" onClick={onClose} />
          </div>
          {children}
        </div>
      )}
      <form method="dialog" className="modal-backdrop">
        <button type="submit" tabIndex={-1}>
          close
        </button>
      </form>
    </dialog>
  )
}

/** A heading of a panel, with what belongs to it on the right. */
export function PanelHeading({ title, children }: { title: string; children?: React.ReactNode }) {
  return (
    <div className="hairline flex h-8 shrink-0 items-center gap-1 border-b px-3">
      <h2 className="text-xs font-semibold">{title}</h2>
      <div className="ms-auto flex items-center gap-0.5">{children}</div>
    </div>
  )
}

/** A key of the keyboard. */
export const KeyCap = ({ children }: { children: React.ReactNode }) => (
  <kbd className="kbd kbd-xs bg-base-200 text-base-content">{children}</kbd>
)
