'use client'
import { useMemo } from 'react'
import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { MapPicture } from '../gallery/map-picture'
import { offersOf, type Offer } from '@/core/map/offers'
import { newId } from '../edit-map'
import { takeOffer } from './take'

const picture = { width: 272, height: 180 }

/** Small real maps of what data can become, the best first, each with its reason; a click takes one. */
export function BecomeGallery({
  of,
  all,
  onTaken,
}: {
  /** The datasets that are shown; without it all of the folio. */
  of?: Prepared[]
  all: Map<string, Prepared>
  onTaken?: () => void
}) {
  const offers = useMemo(() => offersOf(of ?? withShapes(all), all, newId), [of, all])
  const several = new Set(offers.map(({ prepared }) => prepared.entry.id)).size > 1
  if (!offers.length) return <p className="text-muted">Nothing here has a place that could be drawn.</p>
  return (
    <ul
      className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-3"
      aria-label="What this data can become"
    >
      {offers.map((offer, i) => (
        <li key={offer.id}>
          <OfferCard
            offer={offer}
            first={i === 0}
            several={several}
            onTake={() => {
              takeOffer(offer)
              onTaken?.()
            }}
          />
        </li>
      ))}
    </ul>
  )
}

const withShapes = (all: Map<string, Prepared>): Prepared[] =>
  [...all.values()].filter(({ dataset }) => formOf(dataset) !== 'none')

function OfferCard({
  offer: { prepared, map, layer, kind, shows, because, sentence },
  first,
  several,
  onTake,
}: {
  offer: Offer
  first: boolean
  several: boolean
  onTake: () => void
}) {
  const looked = useMemo(() => ({ map, seen: null, layer, prepared }), [map, layer, prepared])
  return (
    <button
      type="button"
      aria-label={`${shows}: ${kindOf(kind).label}`}
      title={sentence}
      className={`flex h-full w-full flex-col justify-start overflow-hidden rounded border bg-base-100 text-left hover:border-primary ${first ? 'border-primary' : 'border-line'}`}
      onClick={onTake}
    >
      <MapPicture looked={looked} as={layer} size={picture} reduced={2.6} />
      <span className="block px-2.5 pt-1.5 leading-snug font-semibold">{shows}</span>
      <span className="block px-2.5 pb-2 text-xs text-muted">
        {kindOf(kind).label}
        {several && ` of ${prepared.entry.name}`}. {because}
      </span>
    </button>
  )
}
