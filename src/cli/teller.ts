/** Says how far a run is. */
export interface Teller {
  readonly line: (text: string) => void
  readonly progress: (text: string) => void
  readonly end: () => void
}

/** On a terminal one line that changes; elsewhere plain lines alone. */
export function tellerOn(stream: NodeJS.WriteStream, out: NodeJS.WritableStream = process.stdout): Teller {
  let shown = 0
  const clear = () => {
    if (shown > 0) stream.write(`\r${' '.repeat(shown)}\r`)
    shown = 0
  }
  return {
    line: (text) => {
      clear()
      out.write(`${text}\n`)
    },
    progress: (text) => {
      if (!stream.isTTY) return
      clear()
      stream.write(text)
      shown = text.length
    },
    end: clear,
  }
}
