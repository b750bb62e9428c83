/**
 * The cosine transform of rows of numbers, X_k = Σ x_i cos(π (i + ½) k ∕ n), and back, for `n` a power of two: by a
 * fast Fourier transform of the same length (Makhoul 1980, “A fast cosine transform in one and two dimensions”).
 */
export function cosineTransform(n: number) {
  const [re, im] = [new Float64Array(n), new Float64Array(n)]
  const fourier = fourierTransform(n)
  const turn = (k: number): [number, number] => [
    Math.cos((Math.PI * k) / (2 * n)),
    Math.sin((Math.PI * k) / (2 * n)),
  ]
  const [cos, sin] = [0, 1].map((part) => Float64Array.from({ length: n }, (_, k) => turn(k)[part]))
  return {
    /** Every row of `n` numbers becomes its waves, in place. */
    forward(values: Float64Array): void {
      for (let row = 0; row < values.length; row += n) {
        for (let i = 0; i < n / 2; i++) {
          re[i] = values[row + 2 * i]
          re[n - 1 - i] = values[row + 2 * i + 1]
        }
        im.fill(0)
        fourier(re, im)
        for (let k = 0; k < n; k++) values[row + k] = re[k] * cos[k] + im[k] * sin[k]
      }
    },
    /** Every row of `n` waves becomes what they are of, in place. */
    back(values: Float64Array): void {
      for (let row = 0; row < values.length; row += n) {
        for (let k = 0; k < n; k++) {
          const [a, b] = [values[row + k], k ? values[row + n - k] : 0]
          // Of the inverse transform the conjugate is taken, so that one way serves both.
          re[k] = a * cos[k] + b * sin[k]
          im[k] = -(a * sin[k] - b * cos[k])
        }
        fourier(re, im)
        for (let i = 0; i < n / 2; i++) {
          values[row + 2 * i] = re[i] / n
          values[row + 2 * i + 1] = re[n - 1 - i] / n
        }
      }
    },
  }
}

/** The Fourier transform of `n` complex numbers in place, e to the −i (Cooley and Tukey 1965). */
function fourierTransform(n: number): (re: Float64Array, im: Float64Array) => void {
  const bits = Math.log2(n)
  const place = Uint32Array.from({ length: n }, (_, i) => {
    let out = 0
    for (let bit = 0; bit < bits; bit++) out |= ((i >> bit) & 1) << (bits - 1 - bit)
    return out
  })
  const cos = Float64Array.from({ length: n / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / n))
  const sin = Float64Array.from({ length: n / 2 }, (_, k) => -Math.sin((2 * Math.PI * k) / n))
  return (re, im) => {
    for (let i = 0; i < n; i++) {
      const j = place[i]
      if (j <= i) continue
      const [a, b] = [re[i], im[i]]
      re[i] = re[j]
      im[i] = im[j]
      re[j] = a
      im[j] = b
    }
    for (let size = 2; size <= n; size *= 2)
      for (let start = 0; start < n; start += size)
        for (let k = 0; k < size / 2; k++) {
          const w = (k * n) / size
          const [i, j] = [start + k, start + k + size / 2]
          const x = re[j] * cos[w] - im[j] * sin[w]
          const y = re[j] * sin[w] + im[j] * cos[w]
          re[j] = re[i] - x
          im[j] = im[i] - y
          re[i] += x
          im[i] += y
        }
  }
}
