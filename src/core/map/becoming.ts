import type { Prepared } from '@/core/data/prepare'
import type { KindData } from '@/core/kinds/kind'
import { kindIds, kindOf, symbologyOf, type KindId, type Symbology } from '@/core/kinds/registry'
import { kindData } from './layer-plan'

/** One map that data can become: by which kind, what it shows, and why that fits. */
export type Becoming = {
  kind: KindId
  symbology: Symbology
  /** What it shows, in a few words: the heading of the picture. */
  shows: string
  because: string
  /** The whole sentence, as it stands above a map. */
  sentence: string
  fit: number
}

/** So many are offered, and no more than this of one kind, so that they differ. */
const [most, mostOfOne] = [12, 3]

/** What a dataset can become, the best first: every kind that accepts it says by itself what it would show. */
export function becomingOf(prepared: Prepared): Becoming[] {
  const data = kindData(prepared)
  const found = kindIds.flatMap((id) => ofKind(id, data))
  found.sort((a, b) => b.fit - a.fit)
  const counts = new Map<KindId, number>()
  const chosen = found.filter(({ kind }) => {
    const count = (counts.get(kind) ?? 0) + 1
    counts.set(kind, count)
    return count <= mostOfOne
  })
  return chosen.slice(0, most)
}

function ofKind(id: KindId, data: KindData): Becoming[] {
  const kind = kindOf(id)
  if (!kind.suggests || !kind.accepts(data)) return []
  return kind.suggests(data).map(({ settings, shows, because, fit }): Becoming => ({
    kind: id,
    symbology: symbologyOf(id, settings),
    ...{ shows, because, fit },
    sentence: kind
      .sentence(settings, data)
      .map(({ text }) => text)
      .join(''),
  }))
}
