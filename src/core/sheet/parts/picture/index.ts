import { z } from 'zod'
import { polyline, rectangle, type Box } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { roundedRectangle } from '@/core/scene/shapes'
import { dotsPerInch } from '@/core/scene/units'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartType } from '../../part'
import type { PictureEntry } from '../../picture'

export const PictureSettings = z.object({
  /** The picture of the folio; null while none is chosen. */
  pictureId: z.string().nullable(),
  /** Its size as the folio knows it, pixels or its own units. */
  widthPx: z.number().positive(),
  heightPx: z.number().positive(),
  /** Whole within the frame, over all of it, or stretched to it. */
  fit: z.enum(['whole', 'fill', 'stretch']),
  /** What is cut off on each side, as shares of the picture. */
  crop: z.object({
    left: z.number().min(0).max(0.95),
    top: z.number().min(0).max(0.95),
    right: z.number().min(0).max(0.95),
    bottom: z.number().min(0).max(0.95),
  }),
  cornerMm: z.number().min(0).max(500),
})
export type PictureSettings = z.infer<typeof PictureSettings>

export const noCrop = { left: 0, top: 0, right: 0, bottom: 0 }

/** The size of what is left of a picture after it was cut, in its pixels. */
export const croppedSize = ({
  widthPx,
  heightPx,
  crop,
}: PictureSettings): { width: number; height: number } => ({
  width: widthPx * Math.max(0.01, 1 - crop.left - crop.right),
  height: heightPx * Math.max(0.01, 1 - crop.top - crop.bottom),
})

/** Where the whole picture lies on paper for what is left of it to fit its frame, and the part of that that is seen. */
export function placeOfPicture(settings: PictureSettings, frame: Box): { whole: Box; seen: Box } {
  const { fit, crop, widthPx, heightPx } = settings
  const left = croppedSize(settings)
  const byWidth = frame.width / left.width
  const byHeight = frame.height / left.height
  const both = fit === 'whole' ? Math.min(byWidth, byHeight) : Math.max(byWidth, byHeight)
  const [sx, sy] = fit === 'stretch' ? [byWidth, byHeight] : [both, both]
  const [width, height] = [left.width * sx, left.height * sy]
  const x = frame.x + (frame.width - width) / 2
  const y = frame.y + (frame.height - height) / 2
  const whole = {
    x: x - crop.left * widthPx * sx,
    y: y - crop.top * heightPx * sy,
    width: widthPx * sx,
    height: heightPx * sy,
  }
  const [x0, y0] = [Math.max(x, frame.x), Math.max(y, frame.y)]
  const seen = {
    x: x0,
    y: y0,
    width: Math.min(x + width, frame.x + frame.width) - x0,
    height: Math.min(y + height, frame.y + frame.height) - y0,
  }
  return { whole, seen }
}

/** Below so many dots per inch single pixels are seen in print. */
export const leastPictureDpi = 200

/** How many of its pixels a picture has for each inch of paper, the fewer of both directions. */
export function effectiveDpi(settings: PictureSettings, frame: Box): number {
  const { whole } = placeOfPicture(settings, frame)
  return Math.min(dotsPerInch(settings.widthPx / whole.width), dotsPerInch(settings.heightPx / whole.height))
}

/** A photograph, a logo or a drawing. Drawings stay vectors. */
export const picture: PartType<PictureSettings> = {
  label: 'Picture',
  group: 'ornament',
  settings: PictureSettings,
  resize: 'free',
  keepsLabelsOff: true,
  styles: [],
  measure: (_, { width, height }) => ({ width, height }),
  compose(settings, box, context, { name }) {
    const content = settings.pictureId === null ? null : context.picture(settings.pictureId)
    if (!content) return missing(box)
    const { whole, seen } = placeOfPicture(settings, box)
    const shown: Node =
      content.kind === 'bitmap'
        ? { type: 'picture', box: whole, mime: content.mime, bytes: content.bytes }
        : group(`${name} drawing`, content.nodes, {
            transform: [
              whole.width / content.box.width,
              0,
              0,
              whole.height / content.box.height,
              whole.x - (content.box.x * whole.width) / content.box.width,
              whole.y - (content.box.y * whole.height) / content.box.height,
            ],
          })
    const clip = settings.cornerMm > 0 ? roundedRectangle(seen, settings.cornerMm) : rectangle(seen)
    return [group(`${name} cut`, [shown], { clip })]
  },
  leansOn: ({ pictureId }, _, context) => [pictureId === null ? null : context.picture(pictureId)],
  fonts: () => [],
  initial({ sheet, pictures }) {
    const [last] = pictures.slice(-1)
    const { x, y } = innerBox(sheet)
    const box = { x: x + 10, y: y + 10, width: 50, height: 35 }
    return { box: last ? { ...box, ...sizeFor(last, 50) } : box, settings: pictureOf(last ?? null) }
  },
  refs: ({ pictureId }) => ({ ...noRefs, pictures: pictureId === null ? [] : [pictureId] }),
  remap: (settings, ids) => ({
    ...settings,
    pictureId: settings.pictureId === null ? null : renamed(ids.pictures, settings.pictureId),
  }),
}

/** A crossed frame, where there is no picture. */
const missing = (box: Box): Node[] => {
  const { x, y, width, height } = box
  const line = stroke('#9a9a9a', 0.2, { dashMm: [1, 1], cap: 'butt' })
  return [
    path(rectangle(box), { strokes: [line] }),
    path(polyline([x, y, x + width, y + height], [x + width, y, x, y + height]), { strokes: [line] }),
  ]
}

/** The settings for a picture of the folio. */
export const pictureOf = (entry: PictureEntry | null): PictureSettings => ({
  pictureId: entry?.id ?? null,
  widthPx: entry?.widthPx ?? 3,
  heightPx: entry?.heightPx ?? 2,
  fit: 'whole',
  crop: noCrop,
  cornerMm: 0,
})

/** A frame in the proportions of a picture, so wide or so high at most. */
export function sizeFor(
  { widthPx, heightPx }: PictureEntry,
  mostMm: number,
): { width: number; height: number } {
  const scale = mostMm / Math.max(widthPx, heightPx)
  return { width: widthPx * scale, height: heightPx * scale }
}
