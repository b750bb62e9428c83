import { z } from 'zod'
import { rectangle } from '@/core/scene/outline'
import { insetBox, roundedRectangle } from '@/core/scene/shapes'
import { fading, Fill, filled, type GradientStop } from '../../fill'
import { noRefs, type NewPart, type PartGiven, type PartType } from '../../part'

export const ShadeSettings = z.object({
  fill: Fill,
  cornerMm: z.number().min(0).max(500),
})
export type ShadeSettings = z.infer<typeof ShadeSettings>

const seam: GradientStop[] = [
  { at: 0, colour: '#000000', opacity: 0 },
  { at: 0.5, colour: '#000000', opacity: 0.45 },
  { at: 1, colour: '#000000', opacity: 0 },
]

/** Shades that are ready to be used, by name. `part` is how much of the page's shorter side they take up, 1 for all. */
export const readyShades = {
  'Dark edges': { by: 'inward', widthMm: 28, stops: fading('#000000', 0.5), bands: 0 },
  'Light edges': { by: 'inward', widthMm: 28, stops: fading('#ffffff', 1), bands: 0 },
  'Fade on the right': { by: 'linear', angleDeg: 180, stops: fading('#ffffff', 1), bands: 0 },
  'Fade at the foot': { by: 'linear', angleDeg: 270, stops: fading('#ffffff', 1), bands: 0 },
  Seam: { by: 'linear', angleDeg: 0, stops: seam, bands: 0 },
  'Round glow': {
    by: 'round',
    centre: [0.5, 0.5],
    radius: 1,
    stops: fading('#ffffff', 0.8),
    bands: 0,
  },
} as const satisfies Record<string, Fill>

/** A gradient over the page or a panel: from side to side, round, or inward from the edges. */
export const shade: PartType<ShadeSettings> = {
  label: 'Shade',
  group: 'ornament',
  settings: ShadeSettings,
  resize: 'free',
  keepsLabelsOff: false,
  styles: [],
  measure: (_, { width, height }) => ({ width, height }),
  compose({ fill, cornerMm }, box, _, { name }) {
    return filled(`${name} gradient`, fill, box, (by) => {
      const inner = insetBox(box, by)
      return cornerMm > 0 ? roundedRectangle(inner, cornerMm - by) : rectangle(inner)
    })
  },
  leansOn: () => [],
  fonts: () => [],
  initial: (given) => shadeOf('Dark edges', given),
  ready: Object.fromEntries(
    (Object.keys(readyShades) as (keyof typeof readyShades)[]).map((name) => [
      name,
      (given) => shadeOf(name, given),
    ]),
  ),
  refs: () => noRefs,
  remap: (settings) => settings,
}

/** A ready shade over all of the page. */
function shadeOf(name: keyof typeof readyShades, { sheet: { page } }: PartGiven): NewPart<ShadeSettings> {
  return {
    staysPut: true,
    box: { x: 0, y: 0, width: page.widthMm, height: page.heightMm },
    settings: { fill: Fill.parse(readyShades[name]), cornerMm: 0 },
  }
}
