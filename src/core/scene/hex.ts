import { z } from 'zod'

/** A colour without transparency as it stands in a folio: `#rrggbb`. */
export const Hex = z.string().regex(/^#[0-9a-f]{6}$/i)

export const isHex = (text: string): boolean => Hex.safeParse(text).success
