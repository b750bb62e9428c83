import type { FileMetaData } from 'hyparquet'

/**
 * A look through the frame of a Parquet file before it is decoded: its footer and the heads of its pages, which are
 * written in Thrift's compact protocol. What a damaged file claims there, such as a list of two thousand million parts,
 * would otherwise be believed.
 */

/** What a head holds, by the numbers of its fields: whole numbers and heads within it; all else is passed over. */
type Head = Map<number, number | Head>

const mostDepth = 24
/** Bytes that a page may have once it is unpacked. */
const mostPageBytes = 1024 * 1024 * 1024

class Reader {
  constructor(
    private readonly bytes: Uint8Array,
    public at: number,
    private readonly end: number,
  ) {}

  byte(): number {
    if (this.at >= this.end) throw new Error('the frame ends too early')
    return this.bytes[this.at++]
  }

  skip(count: number): void {
    if (!(count >= 0) || count > this.end - this.at) throw new Error('a length is larger than what is there')
    this.at += count
  }

  /** A whole number of seven bits a byte; beyond 2⁵³ it is only known to be large. */
  varint(): number {
    let [value, factor] = [0, 1]
    for (let i = 0; i < 10; i++) {
      const byte = this.byte()
      value += (byte & 127) * factor
      if (byte < 128) return value
      factor *= 128
    }
    throw new Error('a number has too many bytes')
  }

  signed(): number {
    const raw = this.varint()
    return raw % 2 ? -(raw + 1) / 2 : raw / 2
  }

  head(depth = 0): Head {
    if (depth > mostDepth) throw new Error('heads lie too deep in each other')
    const head: Head = new Map()
    let id = 0
    for (;;) {
      const mark = this.byte()
      const type = mark & 15
      if (type === 0) return head
      id = mark >> 4 ? id + (mark >> 4) : this.signed()
      const value = type < 3 ? undefined : this.value(type, depth)
      if (value !== undefined) head.set(id, value)
    }
  }

  private value(type: number, depth: number): number | Head | undefined {
    if (type <= 3) this.skip(1)
    else if (type <= 6) return this.signed()
    else if (type === 7) this.skip(8)
    else if (type === 8) this.skip(this.varint())
    else if (type === 9 || type === 10) this.list(depth)
    else if (type === 12) return this.head(depth + 1)
    else throw new Error('a field is of no known type')
    return undefined
  }

  private list(depth: number): void {
    const mark = this.byte()
    const size = mark >> 4 === 15 ? this.varint() : mark >> 4
    // Every part takes a byte at least.
    if (size > this.end - this.at) throw new Error('a list is longer than what is there')
    for (let i = 0; i < size; i++) this.value(mark & 15, depth + 1)
  }
}

const magic = [0x50, 0x41, 0x52, 0x31]

/**
 * Looks through the footer.
 * @throws Error where it is not whole
 */
export function checkFooter(bytes: Uint8Array): void {
  const end = bytes.length - 8
  if (end < 4 || magic.some((byte, i) => bytes[end + 4 + i] !== byte)) throw new Error('there is no footer')
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(end, true)
  if (length > end) throw new Error('the footer is longer than the file')
  new Reader(bytes, end - length, end).head()
}

const numberIn = (head: Head | undefined, id: number): number | undefined => {
  const value = head?.get(id)
  return typeof value === 'number' ? value : undefined
}
const headIn = (head: Head, id: number): Head | undefined => {
  const value = head.get(id)
  return typeof value === 'object' ? value : undefined
}

/**
 * Looks through the pages of every column: they lie in the file, follow each other, and hold as many values as the
 * column is said to have.
 * @throws Error where they do not
 */
export function checkPages(bytes: Uint8Array, metadata: FileMetaData): void {
  let rows = 0
  for (const group of metadata.row_groups) {
    rows += Number(group.num_rows)
    for (const { meta_data: column } of group.columns) {
      if (!column) throw new Error('a column says nothing of itself')
      const values = Number(column.num_values)
      const start = Number(column.dictionary_page_offset ?? column.data_page_offset)
      const end = start + Number(column.total_compressed_size)
      if (!(start >= 4 && end > start && end <= bytes.length))
        throw new Error('a column lies outside the file')
      const reader = new Reader(bytes, start, end)
      let seen = 0
      while (seen < values) {
        const page = reader.head()
        const [unpacked, packed] = [numberIn(page, 2) ?? -1, numberIn(page, 3) ?? -1]
        if (unpacked < 0 || unpacked > mostPageBytes) throw new Error('a page has no size that can be')
        reader.skip(packed)
        checkSecondForm(headIn(page, 8), packed)
        const count = numberIn(headIn(page, 5) ?? headIn(page, 8), 1)
        if (count === undefined && page.has(5)) throw new Error('the head of a page is not whole')
        const known = numberIn(headIn(page, 7), 1)
        if (count === undefined && known === undefined) continue
        if ((known ?? 0) < 0 || (known ?? 0) > values) throw new Error('a page has more words than values')
        if (count !== undefined && count < 1) throw new Error('a page holds nothing')
        seen += count ?? 0
      }
      if (seen !== values) throw new Error('a page holds more values than its column')
    }
  }
  if (rows !== Number(metadata.num_rows)) throw new Error('groups of rows do not add up')
}

/** The head of a page in its second form also counts what is missing, its rows, and the bytes of its levels. */
function checkSecondForm(head: Head | undefined, packed: number): void {
  if (!head) return
  const [values, missing, rows, , ...levels] = [1, 2, 3, 4, 5, 6].map((id) => numberIn(head, id) ?? NaN)
  if ([values, missing, rows, ...levels].some(Number.isNaN))
    throw new Error('the head of a page is not whole')
  if (missing < 0 || missing > values || rows < 0 || rows > values)
    throw new Error('a page counts more missing values or rows than values')
  if (levels.some((bytes) => bytes < 0) || levels[0] + levels[1] > packed)
    throw new Error('the levels of a page are longer than it is')
}
