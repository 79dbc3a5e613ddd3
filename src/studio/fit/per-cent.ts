/** Per cent with as many places as it takes to tell it from nothing. */
export const perCent = (share: number): string => {
  const value = 100 * share
  return `${Number(value.toFixed(value < 0.1 ? 3 : value < 1 ? 2 : 1))} %`
}
