import { unpackedFont } from '@/core/scene/sfnt'
import type { FontBook } from '@/core/scene/text'
import { channels, type BlendMode, type Colour, type Stop, type Stroke } from '@/core/scene/paint'
import { outlineBox, trace, type Box, type Dots, type Outline, type OutlineSink } from '@/core/scene/outline'
import {
  needsCompositing,
  type Group,
  type Node,
  type Path,
  type Picture,
  type Raster,
  type Scene,
  type Text,
} from '@/core/scene/scene'
import { featuresFor, traceGlyphs } from '@/core/scene/text'
import { bandBytes, createZlib, filterUp } from '../deflate-bands'
import { hatchCap, hatchLines } from '../hatch'
import { short } from '../numbers'

export type PdfRef = {
  data: Record<string, unknown>
  write(chunk: Uint8Array | string): void
  end(chunk?: Uint8Array | string): void
}

export type PdfOptions = {
  fonts: FontBook
  fontBytes: (file: string) => Uint8Array
  /** Written as the document's creation date; given from outside so that the same input gives the same file. */
  date: Date
}

/** A layer followed by an array of the layers inside it, as the optional-content order of PDF wants it. */
export type LayerOrder = (PdfRef | LayerOrder)[]

type EmbeddedFont = {
  ref(): PdfRef
  encode(
    text: string,
    features?: Record<string, boolean>,
  ): [string[], { xAdvance: number; advanceWidth: number; xOffset: number; yOffset: number }[]]
}

/** The low-level parts of the PDF library that this writer builds on. */
export type PdfInternals = {
  ref(data: Record<string, unknown>): PdfRef
  font(source: Uint8Array): PdfInternals
  _font: EmbeddedFont
  _root: PdfRef
  page: { resources: PdfRef; dictionary: PdfRef; write(chunk: string): void }
  openImage(bytes: Uint8Array): { obj: PdfRef | null; embed(document: PdfInternals): void }
}

const blendNames: Record<BlendMode, string> = {
  normal: 'Normal',
  multiply: 'Multiply',
  screen: 'Screen',
  overlay: 'Overlay',
  darken: 'Darken',
  lighten: 'Lighten',
  'soft-light': 'SoftLight',
}

/** Writes one scene into the current page of a document. Operators are PDF 32000-1:2008's. */
export class PageWriter {
  private out: string[] = []
  private readonly names = new Map<string, string>()
  private readonly fonts = new Map<string, { name: string; font: EmbeddedFont }>()

  constructor(
    private readonly document: PdfInternals,
    private readonly scene: Scene,
    private readonly options: PdfOptions,
  ) {}

  /** Returns the order of layers that the page uses. The paper has its colour over the bleed as well. */
  write(bleedMm = 0): LayerOrder {
    const layers: LayerOrder = []
    // The page already runs downwards in points; from here on it is paper millimetres.
    const points = short(72 / 25.4, 8)
    const shift = short((72 / 25.4) * bleedMm, 6)
    this.out.push(`${points} 0 0 ${points} ${shift} ${shift} cm`)
    if (this.scene.background) {
      this.out.push(
        'q',
        this.fillColour(this.scene.background),
        `${[-bleedMm, -bleedMm, this.scene.widthMm + 2 * bleedMm, this.scene.heightMm + 2 * bleedMm].map((n) => short(n)).join(' ')} re f`,
        'Q',
      )
    }
    for (const node of this.scene.children) this.node(node, layers)
    this.document.page.write(this.out.join('\n'))
    return layers
  }

  private node(node: Node, layers: LayerOrder): void {
    if (node.type === 'group') this.group(node, layers)
    else if (node.type === 'path') this.path(node)
    else if (node.type === 'text') this.text(node)
    else if (node.type === 'picture') this.picture(node)
    else this.raster(node)
  }

  private group(node: Group, layers: LayerOrder): void {
    let inner = layers
    if (node.layer) {
      const layer = this.document.ref({ Type: 'OCG', Name: new String(node.name) })
      layer.end()
      this.out.push(`/OC /${this.resource('Properties', layer)} BDC`)
      inner = []
      layers.push(layer, inner)
    }
    // Whoever looks for words or copies them finds what is said, not the pieces that it is set in.
    if (node.says !== undefined) this.out.push(`/Span <</ActualText ${unicodeString(node.says)}>> BDC`)
    this.out.push('q')
    if (node.transform) this.out.push(`${node.transform.map((n) => short(n, 6)).join(' ')} cm`)
    if (node.clip) this.out.push(pathOperators(node.clip), 'W n')
    if (node.mask) {
      const { mask } = node
      const seen = this.form(() => mask.forEach((one) => this.node(one, [])), { S: 'Transparency', I: true })
      this.out.push(this.state({ SMask: { Type: 'Mask', S: 'Luminosity', G: this.forms.get(seen) } }))
    }
    if (needsCompositing(node)) {
      const form = this.form(() => node.children.forEach((child) => this.node(child, inner)), {
        S: 'Transparency',
        I: true,
      })
      this.out.push(
        this.state({ ca: node.opacity, CA: node.opacity, BM: blendNames[node.blend] }),
        `/${form} Do`,
      )
    } else for (const child of node.children) this.node(child, inner)
    this.out.push('Q')
    if (node.says !== undefined) this.out.push('EMC')
    if (node.layer) {
      if (!inner.length) layers.pop()
      this.out.push('EMC')
    }
  }

  private readonly dotForms = new Map<number, string>()

  /** Dots as one small form that is put where each of them is, from one to the next. */
  private dots({ coords, r, place: { scale, dx, dy } }: Dots, fill: Path['fill']): void {
    if (fill?.type !== 'solid') return
    let name = this.dotForms.get(r)
    if (name === undefined) {
      const form = this.document.ref({ Type: 'XObject', Subtype: 'Form', BBox: [-r, -r, r, r] })
      form.end(Buffer.from(`${pathOperators({ kind: 'circle', x: 0, y: 0, r })}\nf`, 'latin1'))
      name = this.resource('XObject', form)
      this.dotForms.set(r, name)
    }
    this.out.push('q', this.fillColour(fill.colour))
    let [px, py] = [0, 0]
    for (let i = 0; i < coords.length; i += 2) {
      const [x, y] = [
        Math.round(100 * (coords[i] * scale + dx)),
        Math.round(100 * (coords[i + 1] * scale + dy)),
      ]
      if (!Number.isFinite(x) || !Number.isFinite(y)) continue
      this.out.push(`1 0 0 1 ${short((x - px) / 100, 2)} ${short((y - py) / 100, 2)} cm/${name} Do`)
      ;[px, py] = [x, y]
    }
    this.out.push('Q')
  }

  private path(node: Path): void {
    if (node.outline.kind === 'dots') return this.dots(node.outline, node.fill)
    const shape = pathOperators(node.outline)
    if (!shape) return
    const rule = node.fillRule === 'evenodd' ? '*' : ''
    const { fill } = node
    if (fill?.type === 'solid') this.out.push('q', this.fillColour(fill.colour), shape, `f${rule}`, 'Q')
    else if (fill?.type === 'hatch') {
      const box = outlineBox(node.outline)
      if (fill.background) this.out.push('q', this.fillColour(fill.background), shape, `f${rule}`, 'Q')
      if (box)
        this.out.push(
          'q',
          shape,
          `W${rule} n`,
          ...this.strokeState({
            colour: fill.colour,
            widthMm: fill.widthMm,
            dashMm: [],
            cap: hatchCap(fill),
            join: 'miter',
          }),
          pathOperators(hatchLines(box, fill)),
          'S',
          'Q',
        )
    } else if (fill) this.gradient(fill, shape, rule)
    for (const line of node.strokes) this.out.push('q', ...this.strokeState(line), shape, 'S', 'Q')
  }

  private gradient(
    fill: Extract<Path['fill'], { type: 'linear' | 'radial' }>,
    shape: string,
    rule: string,
  ): void {
    this.out.push('q', shape, `W${rule} n`)
    if (fill.stops.some((stop) => channels(stop.colour).a < 1)) {
      const mask = this.shading(fill, 'DeviceGray', (stop) => [channels(stop.colour).a])
      const form = this.form(() => this.out.push(`/${mask} sh`), { S: 'Transparency', CS: 'DeviceGray' })
      this.out.push(this.state({ SMask: { Type: 'Mask', S: 'Luminosity', G: this.forms.get(form) } }))
    }
    const colours = this.shading(fill, 'DeviceRGB', (stop) => rgb(stop.colour))
    this.out.push(`/${colours} sh`, 'Q')
  }

  private shading(
    fill: Extract<Path['fill'], { type: 'linear' | 'radial' }>,
    space: string,
    components: (stop: Stop) => number[],
  ): string {
    const stops = [...fill.stops]
    if (stops[0].offset > 0) stops.unshift({ ...stops[0], offset: 0 })
    if (stops[stops.length - 1].offset < 1) stops.push({ ...stops[stops.length - 1], offset: 1 })
    const pieces = stops.slice(1).map((stop, i) => ({
      FunctionType: 2,
      Domain: [0, 1],
      C0: components(stops[i]),
      C1: components(stop),
      N: 1,
    }))
    const Function =
      pieces.length === 1
        ? pieces[0]
        : {
            FunctionType: 3,
            Domain: [0, 1],
            Functions: pieces,
            Bounds: stops.slice(1, -1).map((s) => s.offset),
            Encode: pieces.flatMap(() => [0, 1]),
          }
    const Coords =
      fill.type === 'linear' ? [...fill.from, ...fill.to] : [...fill.centre, 0, ...fill.centre, fill.radius]
    const shading = this.document.ref({
      ShadingType: fill.type === 'linear' ? 2 : 3,
      ColorSpace: space,
      Coords,
      Function,
      Extend: [true, true],
    })
    shading.end()
    return this.resource('Shading', shading)
  }

  private text(node: Text): void {
    const angle = (node.rotationDeg * Math.PI) / 180
    const matrix = [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), node.x, node.y]
      .map((n) => short(n, 5))
      .join(' ')
    this.out.push('q', `${matrix} cm`)
    if (node.halo) {
      this.out.push(
        'q',
        ...this.strokeState({
          colour: node.halo.colour,
          widthMm: 2 * node.halo.widthMm,
          dashMm: [],
          cap: 'round',
          join: 'round',
        }),
      )
      this.out.push(
        operators((sink) => traceGlyphs(this.options.fonts, node, sink)),
        'S',
        'Q',
      )
    }
    this.out.push(this.fillColour(node.colour), 'BT')
    let first = 0
    for (const run of node.runs) {
      const { name, font } = this.font(run.file)
      const [codes, positions] = font.encode(
        run.text,
        featuresFor(node.letterSpacingMm, node.letters !== undefined),
      )
      if (node.letters) {
        this.out.push(
          `/${name} ${short(node.sizeMm, 4)} Tf 0 Tc`,
          ...codes.map((code, i) => `${letterMatrix(node.letters?.[first + i])} Tm <${code}> Tj`),
        )
        first += codes.length
        continue
      }
      const pieces = codes.map((code, i) => {
        const kern = Math.round(positions[i].advanceWidth - positions[i].xAdvance)
        return kern && i < codes.length - 1 ? `<${code}> ${kern}` : `<${code}>`
      })
      this.out.push(
        `/${name} ${short(node.sizeMm, 4)} Tf ${short(node.letterSpacingMm, 4)} Tc 1 0 0 -1 ${short(run.xMm)} 0 Tm [${joinCodes(pieces)}] TJ`,
      )
    }
    this.out.push('ET', 'Q')
  }

  /** Pictures that are in the document already, by their bytes. */
  private readonly pictures = new Map<Uint8Array, string>()

  private picture(node: Picture): void {
    let name = this.pictures.get(node.bytes)
    if (name === undefined) {
      const image = this.document.openImage(node.bytes)
      if (!image.obj) image.embed(this.document)
      name = this.resource('XObject', image.obj as PdfRef)
      this.pictures.set(node.bytes, name)
    }
    this.place(name, node.box)
  }

  /** Colours and opacities are painted and packed band by band; a raster that hides all below it has no opacities. */
  private raster(node: Raster): void {
    const { columns, rows } = node
    const shape = {
      Type: 'XObject',
      Subtype: 'Image',
      Width: columns,
      Height: rows,
      BitsPerComponent: 8,
      Interpolate: node.smooth,
      Filter: 'FlateDecode',
    }
    const predicted = (colors: number) => ({
      Predictor: 15,
      Colors: colors,
      BitsPerComponent: 8,
      Columns: columns,
    })
    const image = this.document.ref({ ...shape, ColorSpace: 'DeviceRGB', DecodeParms: predicted(3) })
    const [colours, opacities] = [packedPlane(3 * columns), packedPlane(columns)]
    const step = Math.max(1, Math.floor(bandBytes / (4 * columns)))
    let isClear = false
    for (let from = 0; from < rows; from += step) {
      const to = Math.min(rows, from + step)
      const rgba = node.rgba(from, to)
      const cells = columns * (to - from)
      const [rgb, alpha] = [new Uint8Array(3 * cells), new Uint8Array(cells)]
      for (let i = 0; i < cells; i++) {
        rgb[3 * i] = rgba[4 * i]
        rgb[3 * i + 1] = rgba[4 * i + 1]
        rgb[3 * i + 2] = rgba[4 * i + 2]
        alpha[i] = rgba[4 * i + 3]
        if (alpha[i] < 255) isClear = true
      }
      image.write(colours.piece(rgb))
      opacities.kept.push(opacities.piece(alpha))
    }
    if (isClear) {
      const mask = this.document.ref({ ...shape, ColorSpace: 'DeviceGray', DecodeParms: predicted(1) })
      for (const piece of opacities.kept) mask.write(piece)
      mask.end(opacities.end())
      image.data.SMask = mask
    }
    image.end(colours.end())
    this.place(this.resource('XObject', image), node.box)
  }

  private place(name: string, box: Box): void {
    this.out.push(
      'q',
      `${short(box.width)} 0 0 ${short(-box.height)} ${short(box.x)} ${short(box.y + box.height)} cm`,
      `/${name} Do`,
      'Q',
    )
  }

  private readonly forms = new Map<string, PdfRef>()

  /** Collects what `draw` writes into a form of its own and returns the form's name. */
  private form(draw: () => void, group: Record<string, unknown>): string {
    const outside = this.out
    this.out = []
    draw()
    const content = this.out.join('\n')
    this.out = outside
    const reach = 4 * Math.max(this.scene.widthMm, this.scene.heightMm)
    const form = this.document.ref({
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [-reach, -reach, reach, reach],
      Group: { Type: 'Group', CS: 'DeviceRGB', ...group },
      Resources: this.document.page.resources,
    })
    form.end(Buffer.from(content, 'latin1'))
    const name = this.resource('XObject', form)
    this.forms.set(name, form)
    return name
  }

  private font(file: string): { name: string; font: EmbeddedFont } {
    const known = this.fonts.get(file)
    if (known) return known
    this.document.font(unpackedFont(this.options.fontBytes(file)))
    const font = this.document._font
    const entry = { name: this.resource('Font', font.ref()), font }
    this.fonts.set(file, entry)
    return entry
  }

  private fillColour(colour: Colour): string {
    const { a } = channels(colour)
    const paint = `${rgb(colour)
      .map((n) => short(n, 4))
      .join(' ')} rg`
    return a < 1 ? `${this.state({ ca: a })} ${paint}` : paint
  }

  private strokeState(line: Stroke): string[] {
    const { a } = channels(line.colour)
    return [
      a < 1 ? this.state({ CA: a }) : '',
      `${rgb(line.colour)
        .map((n) => short(n, 4))
        .join(
          ' ',
        )} RG ${short(line.widthMm, 4)} w ${['butt', 'round', 'square'].indexOf(line.cap)} J ${['miter', 'round', 'bevel'].indexOf(line.join)} j 4 M`,
      line.dashMm.length ? `[${line.dashMm.map((n) => short(n)).join(' ')}] 0 d` : '',
    ].filter(Boolean)
  }

  private state(entries: Record<string, unknown>): string {
    const key = entries.SMask ? null : JSON.stringify(entries)
    const known = key && this.names.get(key)
    if (known) return `/${known} gs`
    const state = this.document.ref({ Type: 'ExtGState', ...entries })
    state.end()
    const name = this.resource('ExtGState', state)
    if (key) this.names.set(key, name)
    return `/${name} gs`
  }

  /** Lists an object in the page's resources under a fresh name. */
  private resource(kind: string, ref: PdfRef): string {
    const table = (this.document.page.resources.data[kind] ??= {}) as Record<string, PdfRef>
    const name = `${kind.slice(0, 2)}${Object.keys(table).length + 1}`
    table[name] = ref
    return name
  }
}

const rgb = (colour: Colour): number[] => {
  const { r, g, b } = channels(colour)
  return [r / 255, g / 255, b / 255]
}

const pathOperators = (outline: Outline): string => operators((sink) => trace(outline, sink))

function operators(draw: (sink: OutlineSink) => void): string {
  const out: string[] = []
  draw({
    moveTo: (x, y) => out.push(`${short(x)} ${short(y)} m`),
    lineTo: (x, y) => out.push(`${short(x)} ${short(y)} l`),
    bezierCurveTo: (...n) => out.push(`${n.map((v) => short(v)).join(' ')} c`),
    closePath: () => out.push('h'),
  })
  return out.join('\n')
}

/** `<0001> <0002>` becomes `<00010002>`: neighbours without kerning share one string. */
const joinCodes = (pieces: string[]): string => pieces.join('').replace(/></g, '')

/** A string in UTF-16 with its byte order mark (PDF 32000-1, 7.9.2.2). */
const unicodeString = (text: string): string =>
  `<FEFF${[...Array(text.length).keys()].map((i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('')}>`

/** The text matrix of a letter that stands by itself; y of text runs up. */
function letterMatrix(
  { x, y, rotationDeg }: NonNullable<Text['letters']>[number] = { x: 0, y: 0, rotationDeg: 0 },
): string {
  const angle = (rotationDeg * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  return [cos, sin, sin, -cos, x, y].map((n) => short(n, 4)).join(' ')
}

/** Rows of bytes of which each is written as what differs from the one above, packed piece by piece. */
function packedPlane(rowBytes: number) {
  const zlib = createZlib()
  let above = new Uint8Array(rowBytes)
  let isFirst = true
  return {
    kept: [] as Uint8Array[],
    piece(rows: Uint8Array): Uint8Array {
      const packed = zlib.piece(filterUp(rows, rowBytes, above))
      above = rows.slice(-rowBytes)
      if (!isFirst) return packed
      isFirst = false
      return Buffer.concat([zlib.head(), packed])
    },
    end: () => zlib.end(),
  }
}
