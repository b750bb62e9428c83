import { z } from 'zod'
import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
import { kindOf } from '@/core/kinds/registry'
import { copiesOf, refsOf, remapped } from './copies'
import { panelsOf, type PanelPart } from './panel-view'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import { panelOf } from './parts/panel'
import type { PanelVariant } from './parts/panel/spec'
import { plainTable, worthShowing } from './parts/table'
import type { Part } from './registry'
import { variantsOf } from './small-multiples'
import { PictureEntry } from './picture'
import { resizedPage } from './resize-page'
import { Sheet } from './spec'
import { NamedTypeStyle } from './type-style'

/**
 * A page design without its maps: each panel is a role, which a map takes when a sheet is made from it. Pictures and
 * type styles come along; fill-ins stay fill-ins.
 */
export const SheetTemplate = z.object({
  format: z.literal('keen-template'),
  version: z.literal(1),
  id: z.string().regex(/^[\w-]{1,60}$/),
  name: z.string().min(1).max(120),
  /** What it is for, in a sentence. */
  about: z.string().max(300),
  sheet: Sheet,
  typeStyles: z.array(NamedTypeStyle),
  pictures: z.array(PictureEntry),
})
export type SheetTemplate = z.infer<typeof SheetTemplate>

/** A role of a template: a panel that waits for a map. Panels of one name take one map. */
export type Role = { name: string; panels: PanelPart[] }

export function rolesOf({ sheet }: Pick<SheetTemplate, 'sheet'>): Role[] {
  const roles = new Map<string, PanelPart[]>()
  for (const panel of panelsOf(sheet)) roles.set(panel.name, [...(roles.get(panel.name) ?? []), panel])
  return [...roles].map(([name, panels]) => ({ name, panels }))
}

type Source = { typeStyles: NamedTypeStyle[]; pictures: PictureEntry[] }

/** A sheet as a template: its panels wait for maps, tables and charts go, legends say again what the map says. */
export function templateOf(
  sheet: Sheet,
  folio: Source,
  { id, name, about }: { id: string; name: string; about: string },
): SheetTemplate {
  const parts = sheet.parts
    // What shows a dataset by its id has nothing to show elsewhere.
    .filter(({ type }) => type !== 'table' && type !== 'chart' && type !== 'treemap')
    .map((part) => {
      if (part.type === 'panel') return { ...part, settings: emptied(part.settings) }
      if (part.type === 'legend')
        return {
          ...part,
          settings: {
            ...part.settings,
            words: {},
            wordsFor: {},
            hiddenLines: [],
            hiddenLayers: [],
            moved: {},
          },
        }
      return part
    })
  const { pictures } = refsOf(parts)
  return {
    format: 'keen-template',
    version: 1,
    id,
    name,
    about,
    sheet: { ...sheet, id: 'template', name, parts },
    typeStyles: folio.typeStyles,
    pictures: folio.pictures.filter((one) => pictures.includes(one.id)),
  }
}

/** A panel without its map. Its form, its lines and what it takes over from other panels stay. */
const emptied = (settings: PanelPart['settings']): PanelPart['settings'] => ({
  ...settings,
  mapId: null,
  frozen: null,
  hiddenLayers: [],
  variant: null,
  shape: settings.shape.by === 'area' ? { by: 'rectangle', cornerMm: 0 } : settings.shape,
})

/** The map that each role is proposed, by the role's name: the first ones, locators the same as the first. */
export function proposedRoles(
  template: Pick<SheetTemplate, 'sheet'>,
  maps: readonly MapSpec[],
): Map<string, string | null> {
  const thematic = maps.filter(({ layers }) =>
    layers.some(({ symbology }) => kindOf(symbology.kind).thematic),
  )
  const from = thematic.length ? thematic : maps
  const proposed = new Map<string, string | null>()
  let next = 0
  for (const { name } of rolesOf(template)) {
    const helps = /locator|inset/i.test(name)
    const map = helps ? from[0] : (from[next++] ?? from[0])
    proposed.set(name, map?.id ?? null)
  }
  return proposed
}

export type FromTemplate = { sheet: Sheet; typeStyles: NamedTypeStyle[]; pictures: PictureEntry[] }

type Wish = {
  name: string
  /** The map of each role by the role's name; null or none leaves its panels empty. */
  roles: ReadonlyMap<string, string | null>
  maps: readonly MapSpec[]
  datasets: Map<string, Prepared>
  newId: () => string
  typeStyles: readonly NamedTypeStyle[]
  pictures: readonly PictureEntry[]
}

/**
 * A sheet made from a template. Panels show their maps whole, at round scales, unless they go by other panels. Type
 * styles that the folio has under the same id are the folio's own; others come along, as pictures do.
 */
export function sheetFromTemplate(template: SheetTemplate, wish: Wish): FromTemplate {
  const { maps, datasets, roles } = wish
  const { parts, groups } = copiesOf(
    template.sheet,
    template.sheet.parts.map(({ id }) => id),
    wish.newId,
  )
  const filled = parts.map((part) => {
    if (part.type !== 'panel') return part
    const map = maps.find(({ id }) => id === roles.get(part.name))
    if (!map) return part
    const { view } = panelOf(map, datasets, part.box)
    return { ...part, settings: { ...part.settings, mapId: map.id, view } }
  })
  const first = maps.find(({ id }) => [...roles.values()].includes(id)) ?? null
  const placed = withYears(withTables(filled, first, datasets), maps, datasets)
  const missing = <T extends { id: string }>(theirs: readonly T[], ours: readonly T[]) =>
    theirs.filter(({ id }) => !ours.some((one) => one.id === id))
  return {
    sheet: {
      ...template.sheet,
      id: wish.newId(),
      name: wish.name,
      parts: withoutFalseBars(placed, maps),
      groups,
    },
    typeStyles: missing(template.typeStyles, wish.typeStyles),
    pictures: missing(template.pictures, wish.pictures),
  }
}

/** Tables that wait for a dataset show that of the map; where it has no figures, there are none. */
const withTables = (parts: Part[], map: MapSpec | null, datasets: Map<string, Prepared>): Part[] =>
  parts.flatMap((part): Part[] => {
    if (part.type !== 'table' || part.settings.datasetId) return [part]
    const given = map && worthShowing(map, datasets)
    return given ? [{ ...part, settings: plainTable(given.id, given.prepared) }] : []
  })

/**
 * Panels that wait for a year of a series show years evenly taken from all that the map has, the last one last; where
 * it has none, they show the map as it is.
 */
function withYears(parts: Part[], maps: readonly MapSpec[], datasets: Map<string, Prepared>): Part[] {
  const waiting = parts.filter((part) => part.type === 'panel' && isWaiting(part.settings.variant))
  return parts.map((part) => {
    if (part.type !== 'panel' || !isWaiting(part.settings.variant)) return part
    const map = maps.find(({ id }) => id === part.settings.mapId)
    const years = map?.layers
      .map((layer) => variantsOf(layer, datasets, 'years'))
      .find(({ length }) => length > 1)
    const at = waiting.indexOf(part)
    const share = waiting.length > 1 ? at / (waiting.length - 1) : 1
    const variant = years?.[Math.round(share * (years.length - 1))] ?? null
    return { ...part, settings: { ...part.settings, variant, captioned: variant !== null } }
  })
}

const isWaiting = (variant: PanelVariant | null): boolean => variant?.by === 'year' && variant.layerId === ''

/** Parts without bars over panels whose scale changes too much for one to be true. */
const withoutFalseBars = (parts: Part[], maps: readonly MapSpec[]): Part[] =>
  parts.filter((part) => {
    if (part.type !== 'scale-bar') return true
    const panel = parts.find(({ id }) => id === part.settings.panelId)
    const map = panel?.type === 'panel' ? maps.find(({ id }) => id === panel.settings.mapId) : undefined
    if (panel?.type !== 'panel' || !map) return true
    return scaleChange(map, panel.settings.view, panel.box) <= mostScaleChange
  })

/** A sheet whose panels that wait for a map are seen as pale grounds, for its small picture. */
export const withStandIns = (sheet: Sheet): Sheet => ({
  ...sheet,
  parts: sheet.parts.map((part) =>
    part.type === 'panel' && part.settings.mapId === null
      ? { ...part, settings: { ...part.settings, background: part.settings.background ?? '#c9d3d6' } }
      : part,
  ),
})

/**
 * A template laid over a sheet: page, margins, paper and whatever the template has besides panels come from it; the
 * sheet's panels take the places of the template's in their order, with their maps and views, and what the template
 * has no place for stays where it was, within the new page.
 */
export function laidOver(sheet: Sheet, template: SheetTemplate, newId: () => string): FromTemplate {
  const own = panelsOf(sheet)
  const places = panelsOf(template.sheet)
  const moved = new Map(own.map((panel, i) => [panel.id, places[i]]))
  // What leant on a panel of the template leans on the one that takes its place.
  const inPlaceOf = new Map(places.slice(0, own.length).map(({ id }, i) => [id, own[i].id]))
  const leaning = template.sheet.parts.map((part) => remapped(part, { parts: inPlaceOf }))
  const replaced = new Set(inPlaceOf.keys())
  const others = leaning.filter(({ id }) => !replaced.has(id))
  const { parts, groups } = copiesOf(
    { parts: others, groups: template.sheet.groups },
    others.map(({ id }) => id),
    newId,
  )
  const resized = resizedPage(sheet, template.sheet.page, 'place')
  const kept = resized.parts
    .filter(
      (part) =>
        part.type === 'panel' || !['text', 'legend', 'scale-bar', 'north-arrow', 'shade'].includes(part.type),
    )
    .map((part) => {
      const place = part.type === 'panel' ? moved.get(part.id) : undefined
      if (!place || part.type !== 'panel') return { ...part, groupId: null }
      const { frame, shape, softEdgeMm } = place.settings
      return {
        ...part,
        groupId: null,
        box: place.box,
        settings: { ...part.settings, frame, shape, softEdgeMm },
      }
    })
  const panels = kept.filter(({ type }) => type === 'panel')
  return {
    sheet: {
      ...template.sheet,
      id: sheet.id,
      name: sheet.name,
      parts: [...panels, ...parts, ...kept.filter(({ type }) => type !== 'panel')],
      groups,
    },
    typeStyles: template.typeStyles,
    pictures: template.pictures,
  }
}
