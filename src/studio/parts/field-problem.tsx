/** The problem with a field's text. It overlaps the content below, so that nothing moves away under the pointer. */
export const FieldProblem = ({ id, children }: { id?: string; children: React.ReactNode }) => (
  <p
    id={id}
    role="alert"
    className="absolute top-full left-0 z-30 mt-0.5 w-max max-w-48 rounded-field border border-error bg-base-100 px-1.5 py-0.5 text-2xs text-error"
  >
    {children}
  </p>
)
