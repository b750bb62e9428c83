/**
 * A square system of linear equations, factored once (LU with partial pivoting) and solved for several right sides.
 * `matrix` is row by row and is overwritten.
 * @returns null where the rows depend on each other
 */
export function factored(matrix: Float64Array, n: number): ((right: Float64Array) => Float64Array) | null {
  const order = Int32Array.from({ length: n }, (_, i) => i)
  for (let k = 0; k < n; k++) {
    let pivot = k
    for (let i = k + 1; i < n; i++)
      if (Math.abs(matrix[i * n + k]) > Math.abs(matrix[pivot * n + k])) pivot = i
    const top = matrix[pivot * n + k]
    if (!(Math.abs(top) > 1e-300)) return null
    if (pivot !== k) {
      for (let j = 0; j < n; j++) {
        const held = matrix[k * n + j]
        matrix[k * n + j] = matrix[pivot * n + j]
        matrix[pivot * n + j] = held
      }
      const held = order[k]
      order[k] = order[pivot]
      order[pivot] = held
    }
    for (let i = k + 1; i < n; i++) {
      const factor = matrix[i * n + k] / matrix[k * n + k]
      if (factor === 0) continue
      matrix[i * n + k] = factor
      for (let j = k + 1; j < n; j++) matrix[i * n + j] -= factor * matrix[k * n + j]
    }
  }
  return (right) => {
    const x = new Float64Array(n)
    for (let i = 0; i < n; i++) {
      let sum = right[order[i]]
      for (let j = 0; j < i; j++) sum -= matrix[i * n + j] * x[j]
      x[i] = sum
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = x[i]
      for (let j = i + 1; j < n; j++) sum -= matrix[i * n + j] * x[j]
      x[i] = sum / matrix[i * n + i]
    }
    return x
  }
}
