import { formatLoop, type Loop } from '@/core/document'
import { idOfBytes, VERDICTS, type Verdict } from '@/core/media'
import { storeOf } from '../storage'

/** Verdicts from the pictures of a loop's state, by the loop's id: kept as long as the state stays the same. */
const verdicts = storeOf('verdicts')

interface KeptVerdict {
  /** SHA-256 of the loop's file. */
  readonly state: string
  readonly verdict: Verdict
  /** The rules by which it was judged: what older ones said is looked at again. */
  readonly rules: number
}

/** Raised whenever the rules of judging change. */
const RULES = 2

/** Names a state of a loop: what its file holds. */
const stateOf = (loop: Loop): Promise<string> => idOfBytes(new TextEncoder().encode(formatLoop(loop)))

/** The verdict on a loop as it is, where it was kept; null where it has to be worked out, storage that fails among the reasons. */
export async function keptVerdict(loop: Loop): Promise<Verdict | null> {
  try {
    const kept = await verdicts.getItem<KeptVerdict>(loop.id)
    if (!kept || kept.rules !== RULES || !VERDICTS.includes(kept.verdict)) return null
    return kept.state === (await stateOf(loop)) ? kept.verdict : null
  } catch {
    return null
  }
}

/** Keeps a verdict. Where that fails, it is worked out again the next time. */
export async function keepVerdict(loop: Loop, verdict: Verdict): Promise<void> {
  try {
    await verdicts.setItem<KeptVerdict>(loop.id, { state: await stateOf(loop), verdict, rules: RULES })
  } catch {
    // It is no part of anybody's work.
  }
}

/** Keeps what was found of loops that come with the application, by the states that it was found of. */
export async function keepKnown(loop: Loop, known: Readonly<Record<string, Verdict>>): Promise<void> {
  const verdict = await stateOf(loop).then(
    (state) => known[state],
    () => undefined,
  )
  if (verdict) await keepVerdict(loop, verdict)
}

/** Forgets what was kept of a loop. */
export const forgetVerdict = (id: string): Promise<void> => verdicts.removeItem(id).catch(() => {})
