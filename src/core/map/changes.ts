import type { MapSpec } from './spec'

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b)
const listed = (names: string[]): string => names.map((name) => `“${name}”`).join(', ')

/** What is other in a map than it was, in words, a phrase each; empty where nothing is. */
export function changesOf(before: MapSpec, now: MapSpec): string[] {
  const was = new Map(before.layers.map((layer) => [layer.id, layer]))
  const is = new Map(now.layers.map((layer) => [layer.id, layer]))
  const added = now.layers.filter(({ id }) => !was.has(id)).map(({ name }) => name)
  const gone = before.layers.filter(({ id }) => !is.has(id)).map(({ name }) => name)
  const other = now.layers.filter((layer) => was.has(layer.id) && !same(was.get(layer.id), layer))
  const kept = ({ layers }: MapSpec, there: Map<string, unknown>) =>
    layers.map(({ id }) => id).filter((id) => there.has(id))
  return [
    added.length ? `with ${listed(added)}` : '',
    gone.length ? `without ${listed(gone)}` : '',
    other.length ? `${listed(other.map(({ name }) => name))} as now` : '',
    same(kept(before, is), kept(now, was)) ? '' : 'layers in another order',
    same(before.projection, now.projection) ? '' : 'another projection',
    same([before.background, before.sea, before.land], [now.background, now.sea, now.land])
      ? ''
      : 'another ground',
    same(before.graticule, now.graticule) ? '' : 'another graticule',
  ].filter(Boolean)
}
