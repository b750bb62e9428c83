// What tests build their areas of.

/** A square with its south-western corner at a place. */
export const square = (x: number, y: number, size = 1): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
      [x, y],
    ],
  ],
})
