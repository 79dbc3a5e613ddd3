import { classNames } from './class-names'

interface ChoicesProps {
  readonly label: string
  readonly options: readonly string[]
  readonly chosen: number
  readonly onChoose: (index: number) => void
}

/** One of a few, all of them to be seen. */
export function Choices({ label, options, chosen, onChoose }: ChoicesProps) {
  return (
    <div className="join" role="group" aria-label={label}>
      {options.map((each, i) => (
        <button
          key={each}
          type="button"
          aria-pressed={chosen === i}
          className={classNames(
            'btn join-item btn-xs font-normal',
            chosen === i ? 'bg-neutral text-primary' : 'btn-ghost',
          )}
          onClick={() => onChoose(i)}
        >
          {each}
        </button>
      ))}
    </div>
  )
}
