import { z } from 'zod'
import { LonLat, PlaceMm } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { TypeStyle } from '../../type-style'

/** What an amount is drawn as; each has the area that it stands for. */
export const amountForms = ['ring', 'disc', 'square', 'bar'] as const
export type AmountForm = (typeof amountForms)[number]
export const mostParts = 12

export const AmountSettings = z.object({
  datasetId: z.string(),
  /** Fields whose sums over the rows are shown, each in its colour; several are the parts of a whole. */
  parts: z
    .array(z.object({ field: z.string(), colour: Hex }))
    .min(1)
    .max(mostParts),
  /** Rows whose text of a field is this one alone; null takes all rows. */
  of: z.object({ field: z.string(), value: z.string() }).nullable(),
  form: z.enum(amountForms),
  /** What a square millimetre of colour stands for; the same for all amounts of a sheet that are to be compared. */
  perMm2: z.number().positive(),
  /** How much of a ring’s radius is open, 0 to 1. */
  hole: z.number().min(0).max(0.95),
  /** How wide a bar is. */
  widthMm: z.number().min(0.2).max(500),
  lineColour: Hex,
  lineMm: z.number().min(0).max(10),
  /** What stands beneath; fill-ins are replaced, empty leaves it out. */
  title: z.string().max(300),
  /** Whether the figure stands beneath, or within a ring that has room for it. */
  values: z.boolean(),
  label: TypeStyle,
  /** A place on a map that it stays at; null for one that lies on the page. */
  place: z
    .object({
      panelId: z.string().nullable(),
      place: LonLat,
      /** Where that place lay on the page when the box was as it stands. */
      asOf: z.tuple([PlaceMm, PlaceMm]),
      /** Whether a line leads there from an amount that lies beside it. */
      line: z.boolean(),
    })
    .nullable()
    .default(null),
})
export type AmountSettings = z.infer<typeof AmountSettings>
