import proj4 from 'proj4'

const converters = new Map<string, (lon: number, lat: number) => [number, number]>()

/** From degrees of WGS 84 to the coordinates of a reference system given as a proj4 definition; empty: degrees stay. */
export function fromDegrees(definition: string): (lon: number, lat: number) => [number, number] {
  if (!definition) return (lon, lat) => [lon, lat]
  const known = converters.get(definition)
  if (known) return known
  const { forward } = proj4(definition)
  const convert = (lon: number, lat: number) => forward([lon, lat]) as [number, number]
  converters.set(definition, convert)
  return convert
}
