/** Solves a symmetric system of which the upper half is given (Cholesky); null where it has no single answer. */
export function solved(square: Float64Array, right: Float64Array, size: number): Float64Array | null {
  const root = new Float64Array(size * size)
  for (let i = 0; i < size; i++)
    for (let j = 0; j <= i; j++) {
      let sum = square[j * size + i]
      for (let k = 0; k < j; k++) sum -= root[i * size + k] * root[j * size + k]
      if (i === j) {
        if (!(sum > 1e-9 * square[i * size + i]) || !(sum > 0)) return null
        root[i * size + i] = Math.sqrt(sum)
      } else root[i * size + j] = sum / root[j * size + j]
    }
  const answer = new Float64Array(right)
  for (let i = 0; i < size; i++) {
    for (let k = 0; k < i; k++) answer[i] -= root[i * size + k] * answer[k]
    answer[i] /= root[i * size + i]
  }
  for (let i = size - 1; i >= 0; i--) {
    for (let k = i + 1; k < size; k++) answer[i] -= root[k * size + i] * answer[k]
    answer[i] /= root[i * size + i]
  }
  return answer
}
