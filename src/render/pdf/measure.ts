import { mmToPoints } from '@/core/scene/units'
import type { Georeference } from '@/core/sheet/georeference'
import type { PdfInternals, PdfRef } from './page'

type Page = {
  heightMm: number
  /** What the page is larger on each side. */
  bleedMm: number
}

/**
 * The viewports of a page with their geospatial measure dictionaries (ISO 32000-2, 12.9 and 12.10): a rectangle of the
 * page for each, the panel's corners in it, and places of it (shares of its width and height from the lower left) with
 * their latitude and longitude, and the system in which the rest follows.
 */
export function viewports(
  document: Pick<PdfInternals, 'ref'>,
  georeferences: readonly Georeference[],
  { heightMm, bleedMm }: Page,
): PdfRef[] {
  const ended = (data: Record<string, unknown>): PdfRef => {
    const ref = document.ref(data)
    ref.end()
    return ref
  }
  return georeferences.map(({ name, box, corners, places, system }) => {
    const share = ([x, y]: [number, number]) => [(x - box.x) / box.width, 1 - (y - box.y) / box.height]
    const points = (mm: number) => mmToPoints(mm + bleedMm)
    const GCS = ended({
      Type: system.by === 'epsg' && system.inDegrees ? 'GEOGCS' : 'PROJCS',
      ...(system.by === 'wkt' ? { WKT: new String(system.wkt) } : { EPSG: system.code }),
    })
    const Measure = ended({
      Type: 'Measure',
      Subtype: 'GEO',
      Bounds: corners.flatMap(share),
      GPTS: places.flatMap(({ lon, lat }) => [lat, lon]),
      LPTS: places.flatMap(({ page }) => share(page)),
      GCS,
      PDU: ['KM', 'SQKM', 'DEG'],
    })
    return ended({
      Type: 'Viewport',
      Name: new String(name),
      BBox: [
        points(box.x),
        points(heightMm - box.y - box.height),
        points(box.x + box.width),
        points(heightMm - box.y),
      ],
      Measure,
    })
  })
}
