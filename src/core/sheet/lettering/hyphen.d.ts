/** The patterns of a language; each module has the same functions. */
declare module 'hyphen/*' {
  const patterns: {
    /** The text with soft hyphens where its words may be parted. */
    hyphenateSync(text: string): string
  }
  export default patterns
}
