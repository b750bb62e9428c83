declare module 'd3-geo-voronoi' {
  export function geoVoronoi(places: [number, number][]): {
    delaunay: { triangles: [number, number, number][] }
  }
}
