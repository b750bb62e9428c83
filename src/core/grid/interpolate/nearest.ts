import Flatbush from 'flatbush'

/** Places in a plane, of which the nearest to any other place are found. */
export class PlaceIndex {
  private readonly index: Flatbush | null

  constructor(places: Float64Array) {
    this.index = places.length ? new Flatbush(places.length / 2) : null
    for (let i = 0; i < places.length; i += 2)
      this.index?.add(places[i], places[i + 1], places[i], places[i + 1])
    this.index?.finish()
  }

  /** Numbers of at most `count` places, the nearest first. */
  nearest(x: number, y: number, count: number): number[] {
    return this.index ? this.index.neighbors(x, y, count) : []
  }
}
