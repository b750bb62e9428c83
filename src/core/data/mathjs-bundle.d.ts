declare module 'mathjs/lib/browser/math.js' {
  import type { MathJsInstance } from 'mathjs'
  const math: MathJsInstance
  export default math
}
