import { useEffect } from 'react'
import { toast } from 'sonner'

/** Takes what the system pastes into the workspace: what is pasted into a field is the field's. */
export function usePaste(): void {
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement | null
      if (target?.closest('input, textarea, [contenteditable="true"]') || document.querySelector('dialog[open]')) return
      event.preventDefault()
      // The event holds them only as long as it lasts.
      const files = [...(event.clipboardData?.files ?? [])]
      const text = event.clipboardData?.getData('text/plain') ?? ''
      // Comes when something is pasted first.
      import('../clipboard')
        .then((module) => module.pasted(files, text))
        .catch((error) => toast.error((error as Error).message))
    }
    document.addEventListener('paste', onPaste)
    return () => document.removeEventListener('paste', onPaste)
  }, [])
}
