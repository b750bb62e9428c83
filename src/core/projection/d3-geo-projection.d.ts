declare module 'd3-geo-projection' {
  import type { GeoRawProjection } from 'd3-geo'
  export const geoHomolosineRaw: GeoRawProjection
  export const geoSinusoidalRaw: GeoRawProjection
  export const geoRobinsonRaw: GeoRawProjection
  export const geoWinkel3Raw: GeoRawProjection
  export const geoMillerRaw: GeoRawProjection
  export const geoHammerRaw: (a: number, b?: number) => GeoRawProjection
  export function geoCylindricalEqualAreaRaw(phi0: number): GeoRawProjection
  export function geoBonneRaw(phi0: number): GeoRawProjection
  export const geoPolyconicRaw: GeoRawProjection
}
