import { z } from 'zod'
import { kindOf, Symbology, symbologyOf } from '@/core/kinds/registry'
import { LabelSettings } from '@/core/labels/spec'
import type { Prepared } from '@/core/data/prepare'
import { blendModes } from '@/core/scene/paint'
import { kindData } from './layer-plan'
import type { Layer } from './spec'

/** What a layer looks like, apart from what it shows: for another layer, or kept under a name. */
export const LayerStyle = z.object({
  symbology: Symbology,
  labels: LabelSettings.nullable(),
  opacity: z.number().min(0).max(1),
  blend: z.enum(blendModes),
})
export type LayerStyle = z.infer<typeof LayerStyle>

export const KeptStyle = LayerStyle.extend({ id: z.string(), name: z.string().min(1) })
export type KeptStyle = z.infer<typeof KeptStyle>

export const styleOf = ({ symbology, labels, opacity, blend }: Layer): LayerStyle =>
  structuredClone({ symbology, labels: labels && { ...labels, moved: {}, without: [] }, opacity, blend })

/** Why a layer cannot take a style; null where it can. */
export function styleRefused({ symbology }: LayerStyle, prepared: Prepared): string | null {
  const kind = kindOf(symbology.kind)
  return kind.accepts(kindData(prepared))
    ? null
    : `${prepared.entry.name} cannot be shown as ${kind.label.toLowerCase()}.`
}

/**
 * What a layer becomes in a style: fields that its dataset has under the same names are taken over, for
 * others the kind proposes some, and labels keep what they say where the new field is not there.
 */
export function withStyle(layer: Layer, style: LayerStyle, prepared: Prepared): Layer {
  const data = kindData(prepared)
  const kind = kindOf(style.symbology.kind)
  const symbology = symbologyOf(
    style.symbology.kind,
    kind.remap(structuredClone(style.symbology.settings), data),
  )
  const has = (field: string): boolean => prepared.dataset.fields.some(({ key }) => key === field)
  const { labels } = style
  const said =
    labels &&
    (labels.text.by === 'formula' || has(labels.text.field) ? labels.text : (layer.labels?.text ?? null))
  const next = labels &&
    said && {
      ...structuredClone(labels),
      text: said,
      rankField: labels.rankField !== null && has(labels.rankField) ? labels.rankField : null,
      sizeBy: labels.sizeBy && has(labels.sizeBy.field) ? labels.sizeBy : null,
      moved: layer.labels?.moved ?? {},
      without: layer.labels?.without ?? [],
    }
  return {
    ...layer,
    remembered: { ...layer.remembered, [layer.symbology.kind]: layer.symbology.settings },
    symbology,
    labels: next ?? null,
    opacity: style.opacity,
    blend: style.blend,
  }
}
