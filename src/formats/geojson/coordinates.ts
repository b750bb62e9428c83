import { ImportError } from '../import-error'

/** @throws ImportError where coordinates cannot be degrees of longitude and latitude. */
export function checkDegrees(coords: Float64Array, fileName: string): void {
  for (let i = 0; i < coords.length; i += 2) {
    if (!Number.isFinite(coords[i]) || !Number.isFinite(coords[i + 1]))
      throw new ImportError(`${fileName} holds a coordinate that is not a number.`)
    if (Math.abs(coords[i]) > 540 || Math.abs(coords[i + 1]) > 90.000001)
      throw new ImportError(
        `${fileName} holds the coordinates ${coords[i]}, ${coords[i + 1]}, which are not degrees of longitude and latitude. Save the file in WGS 84 and bring it in again.`,
      )
  }
}
