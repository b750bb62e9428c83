declare module 'polylabel' {
  /** The point of a polygon that is farthest from its outline, to `precision` in the polygon's own units. */
  export default function polylabel(
    polygon: [number, number][][],
    precision?: number,
  ): [number, number] & { distance: number }
}
