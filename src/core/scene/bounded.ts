import { z } from 'zod'

/** The largest page is three metres; nothing on or beside it needs more than this, in millimetres. */
export const mostMm = 10_000
/** The narrowest and lowest that anything on a page is, in millimetres. */
export const leastMm = 0.1

/** A place on or beside a page, millimetres from its top left corner, or a shift. */
export const PlaceMm = z.number().min(-mostMm).max(mostMm)

/** A width or height on a page, millimetres. */
export const SizeMm = z.number().min(leastMm).max(mostMm)

/** Longitude and latitude in degrees; the longitude may go on beyond the date line. */
export const LonLat = z.tuple([z.number().min(-540).max(540), z.number().min(-90).max(90)])

/** The denominator of a scale: from larger than life to the whole globe on a stamp. */
export const ScaleDenominator = z.number().min(0.001).max(1e12)
