/** `light-kernel.wat`, assembled; a test holds the two together. */
export const assembled = [
  'AGFzbQEAAAABEAFgC39/f39/fX19fX19AX0DAgEABQMBAAEHEgIGbWVtb3J5AgAFc2hhZGUAAArCAgG/AgIBfwR7IAMgBEEC',
  'dGohCwNAIAD9AAQIIAD9AAQA/eUBIAL9AAQIIAL9AAQA/eUB/eQBQwAAAED9EyAB/QAECCAB/QAEAP3lAf3mAf3kASEMIAL9',
  'AAQAIAD9AAQA/eUBIAL9AAQIIAD9AAQI/eUB/eQBQwAAAED9EyAC/QAEBCAA/QAEBP3lAf3mAf3kASENIAr9EyAF/RMgDP3m',
  'Af3lASAG/RMgDf3mAf3lAUMAAIA//RMgDCAH/RMgDP3mASAI/RMgDf3mAf3kAf3mASAJ/RMgDf3mASAN/eYB/eQB/eQB/eMB',
  '/ecBIQ4gAyAOQwAAAAD9E/3pAf0LBAAgDyAO/eQBIQ8gAEEQaiEAIAFBEGohASACQRBqIQIgA0EQaiEDIAMgC0kNAAsgD/0f',
  'ACAP/R8BkiAP/R8CIA/9HwOSkgs=',
].join('')

/** Addresses of three rows and of the light, how many cells, and the six terms. */
type Shade = (...numbers: number[]) => number

export type LightKernel = {
  /** Takes over a row of heights; the last three are held. */
  load: (row: number, heights: Float32Array) => void
  /**
   * Reckons the light on some columns of a row, of which the one above and the one below were loaded.
   * @param terms what the light and the square of the slope are made of
   * @returns whether every height was there
   */
  shade: (row: number, first: number, end: number, terms: Float64Array) => boolean
  /** The light on some columns of the row that was reckoned last. */
  light: (first: number, end: number) => Float32Array
}

/** Room at the end of a row: cells are reckoned four by four. */
const padding = 8
const pageBytes = 65_536
let module: WebAssembly.Module | null | undefined

/** The kernel, made once for a thread; null where it cannot run, and then the same is reckoned cell by cell. */
function moduleOf(): WebAssembly.Module | null {
  if (module !== undefined) return module
  try {
    module = new WebAssembly.Module(Uint8Array.from(atob(assembled), (letter) => letter.charCodeAt(0)))
  } catch {
    module = null
  }
  return module
}

/** Four cells at a time, for rows of so many columns; null where the platform cannot do that. */
export function lightKernel(columns: number): LightKernel | null {
  const made = moduleOf()
  if (!made) return null
  const { memory, shade } = new WebAssembly.Instance(made).exports as {
    memory: WebAssembly.Memory
    shade: Shade
  }
  const stride = columns + padding
  memory.grow(Math.ceil((4 * 4 * stride) / pageBytes))
  const cells = new Float32Array(memory.buffer, 0, 4 * stride)
  const out = 3 * stride
  const place = (row: number, column: number): number => 4 * ((row % 3) * stride + column)
  return {
    load: (row, heights) => cells.set(heights, (row % 3) * stride),
    shade: (row, first, end, terms) => {
      const rows = [row - 1, row, row + 1].map((one) => place(one, first - 1))
      const sum = shade(...rows, 4 * (out + first), end - first, ...terms)
      return sum === sum
    },
    light: (first, end) => cells.subarray(out + first, out + end),
  }
}
