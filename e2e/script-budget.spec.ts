import { expect, test } from '@playwright/test'
import { type BudgetedView, kilobytes, SCRIPT_BUDGETS, scriptsOf } from '../bench/transfer'

test('no view has more script sent to it than its budget', async ({ browser }, { project }) => {
  const { port } = new URL(project.use.baseURL ?? '')
  for (const view of Object.keys(SCRIPT_BUDGETS) as BudgetedView[]) {
    const sent = await scriptsOf(browser, Number(port), view)
    const [page, all] = [sent.filter(({ worker }) => !worker), sent].map(kilobytes) as [number, number]
    // A view that was not opened would keep any budget.
    expect(page, `${view}: kB to the page`).toBeGreaterThan(140)
    expect.soft(page, `${view}: kB to the page`).toBeLessThanOrEqual(SCRIPT_BUDGETS[view].page)
    expect.soft(all, `${view}: kB to the page and its workers`).toBeLessThanOrEqual(SCRIPT_BUDGETS[view].all)
  }
})
