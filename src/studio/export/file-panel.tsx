import { Download, FileJson } from 'lucide-react'
import { toast } from 'sonner'
import type { Loop } from '@/core/document'
import { backgroundIn, ENDINGS, fileRecord, seeThrough } from '@/core/output'
import { fileName, saveFile } from '../files'
import { OnAPage } from './on-a-page'
import { ProofCard } from './proof-card'
import { TruthTable } from './truth-table'
import type { Work } from './use-writing'

/** The file that was written last, with its proof. */
export function FilePanel({ work, loop }: { work: Work; loop: Loop }) {
  if (work.state === 'idle') return <TruthTable loop={loop} />
  if (work.state === 'busy') return <p className="dim mt-24 text-center">{work.progress.stage} …</p>
  if (work.state === 'failed')
    return (
      <p role="alert" className="alert alert-error alert-soft mx-auto max-w-lg">
        The file could not be written: {work.title} The loop itself is unchanged.
      </p>
    )
  const { result, settings, loop: written } = work
  const { proof } = result
  const ending = ENDINGS[settings.format]
  const save = async () => {
    const blob = new Blob([result.bytes], { type: result.type })
    if (await saveFile(blob, fileName(written, ending)))
      toast.success(proof.holds ? 'The file was saved.' : 'The file was saved, though it does not keep its promise.')
  }
  const saveProof = async () => {
    const record = fileRecord({
      file: fileName(written, ending),
      loop: written.name,
      rate: written.rate,
      settings,
      proof,
      width: result.width,
      height: result.height,
      frames: result.frames,
      note: result.note,
      seconds: (written.length * written.rate.den * settings.repeats) / written.rate.num,
      bytes: result.bytes.length,
    })
    const blob = new Blob([`${JSON.stringify(record, null, 2)}\n`], { type: 'application/json' })
    if (await saveFile(blob, fileName(written, '.proof.json'))) toast.success('The proof was saved.')
  }
  return (
    <div className="mx-auto max-w-3xl">
      <ProofCard
        proof={proof}
        name={written.name}
        file={{ url: work.url, type: result.type }}
        clear={seeThrough(backgroundIn(written, settings))}
        note={result.note}
        stale={written !== loop}
      />
      <div className="mt-4 flex gap-2">
        <button type="button" className={`btn btn-sm ${proof.holds ? 'btn-primary' : 'btn-neutral'}`} onClick={save}>
          <Download size={15} aria-hidden="true" />{' '}
          {!proof.holds ? 'Save it all the same' : ending === '.gif' ? 'Save the GIF' : 'Save the file'}
        </button>
        <button type="button" className="btn btn-neutral btn-sm" onClick={saveProof}>
          <FileJson size={15} aria-hidden="true" /> Save the proof
        </button>
      </div>
      <OnAPage loop={written} settings={settings} result={result} url={work.url} />
    </div>
  )
}
