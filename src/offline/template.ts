/** Stands for the id of a loop in the pages that are kept: every loop is shown by the same ones. */
export const TEMPLATE_ID = 'id-of-the-loop'
/** The views of a loop, by the last part of their addresses. */
export const LOOP_VIEWS = ['compose', 'fit', 'seam', 'export'] as const

const LOOP_VIEW = new RegExp(`^/loop/([\\w-]+)/(${LOOP_VIEWS.join('|')})$`)

/** Whether an address is that of a view of a loop. */
export const isLoopView = (path: string): boolean => LOOP_VIEW.test(path)

/** Where the kept page for a view of a loop comes from. */
export const templateOf = (path: string): string => path.replace(LOOP_VIEW, `/loop/${TEMPLATE_ID}/$2`)

/** The page of a view, from the one that is kept for all loops. Ids are letters, digits, _ and - alone: nothing has to be escaped. */
export async function pageOf(template: Response, path: string): Promise<Response> {
  const [, id = TEMPLATE_ID] = LOOP_VIEW.exec(path) ?? []
  const headers = new Headers(template.headers)
  headers.delete('content-length')
  headers.delete('content-encoding')
  return new Response((await template.text()).replaceAll(TEMPLATE_ID, id), { headers })
}
