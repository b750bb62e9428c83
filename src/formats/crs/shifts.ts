import table from './shifts.json'

/**
 * From a datum to that of WGS 84 by seven parameters (position vector: metres, arc seconds, parts per million), and
 * how good that is, in metres. From the EPSG data set; made by `scripts/make-shifts.mjs`.
 */
export type Shift = { towgs84: number[]; accuracyM: number }

const { shifts, codes, datums } = table as {
  shifts: number[][]
  codes: Record<string, number>
  datums: Record<string, number>
}

const shiftAt = (index: number | undefined): Shift | null =>
  index === undefined ? null : { towgs84: shifts[index].slice(0, 7), accuracyM: shifts[index][7] }

/** The best one for a system that needs no grid; null where none is published. */
export const shiftOfCode = (code: string): Shift | null => shiftAt(codes[code.replace(/^EPSG:/i, '')])

/** The best one for a datum by its name, as `.prj` files have it; null where the name is not known. */
export const shiftOfDatum = (name: string): Shift | null =>
  shiftAt(
    datums[
      name
        .toLowerCase()
        .replace(/^d_/, '')
        .replace(/[^a-z0-9]+/g, '')
    ],
  )
