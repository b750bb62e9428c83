import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { geodesicMetres } from '@/core/projection/ground'
import { referenceSystems, wellKnownText } from './catalogue'
import measured from './measured.json'
import { accuracyWords, definitionOf } from './reproject'

const hasProgram = (() => {
  try {
    execFileSync('gdaltransform', ['--version'], { stdio: 'ignore' })
    return true
  } catch {
    return false
  }
})()

/** A place in a system by an independent program, east first. */
function elsewhere(code: string, lon: number, lat: number): [number, number] {
  const out = execFileSync('gdaltransform', ['-output_xy', '-s_srs', 'OGC:CRS84', '-t_srs', code], {
    input: `${lon} ${lat}\n`,
  })
  const [x, y] = out.toString().trim().split(/\s+/).map(Number)
  return [x, y]
}

/** A cone in grads from a prime meridian of its own, and the same in degrees from Greenwich. */
const inGrads =
  'PROJCS["Own",GEOGCS["Own",DATUM["Own",SPHEROID["Own",6378249.2,293.46602],TOWGS84[-168,-60,320,0,0,0,0]],PRIMEM["Own",2.5],UNIT["Grad",0.01570796326794897]],PROJECTION["Lambert_Conformal_Conic"],PARAMETER["False_Easting",600000.0],PARAMETER["False_Northing",2200000.0],PARAMETER["Central_Meridian",1.0],PARAMETER["Standard_Parallel_1",52.0],PARAMETER["Scale_Factor",0.99987742],PARAMETER["Latitude_Of_Origin",52.0],UNIT["Meter",1.0]]'
const inDegrees =
  '+proj=lcc +lat_1=46.8 +lat_0=46.8 +lon_0=3.15 +k_0=0.99987742 +x_0=600000 +y_0=2200000 +a=6378249.2 +rf=293.46602 +towgs84=-168,-60,320 +units=m'

describe('reference systems', () => {
  it('need no files of shifts, and say how good their way to WGS 84 is', () => {
    for (const code of ['27700', '4277', '31467', '4314', '4267', '28992', '31370', '27572']) {
      const definition = definitionOf(`EPSG:${code}`)
      expect(definition.accuracyM, code).toBeGreaterThan(0)
      expect(accuracyWords(definition)).toMatch(/that is good to (a metre|[\d.]+ m)\./)
    }
    expect(() => definitionOf('EPSG:2009')).toThrow('cannot be reckoned with here')
    expect(() => definitionOf('EPSG:999999')).toThrow('no reference system')
  })

  it('give a place for the middle of their area of use, never nothing, and take it back', () => {
    const off: string[] = []
    referenceSystems().forEach(({ code, areaOfUse }, i) => {
      if (i % 20 || !areaOfUse || Number(code.slice(5)) > 32767) return
      const [west, south, east, north] = areaOfUse
      const lon = (((west + east + (east < west ? 360 : 0)) / 2 + 540) % 360) - 180
      const lat = (south + north) / 2
      let definition: ReturnType<typeof definitionOf>
      try {
        definition = definitionOf(code)
      } catch {
        // Formulas that the library does not know are refused in words.
        return
      }
      const { toDegrees, fromDegrees } = definition
      if (!toDegrees || !fromDegrees) return
      const [x, y] = fromDegrees(lon, lat)
      if (!Number.isFinite(x) || !Number.isFinite(y)) off.push(`${code}: nothing`)
      else if (geodesicMetres([lon, lat], toDegrees(x, y)) > 1) off.push(`${code}: not taken back`)
    })
    expect(off).toEqual([])
  })

  it('of a .prj file get the shift of their datum by its name', () => {
    for (const [code, ...inside] of [
      ['EPSG:27700', 400_000, 500_000],
      ['EPSG:31467', 3_500_000, 5_500_000],
    ] as [string, number, number][]) {
      // As a file has it: without the code, and without the way to WGS 84.
      const prj = wellKnownText(code)
        .replace(/,?AUTHORITY\["[^"]*","[^"]*"\]/g, '')
        .replace(/,TOWGS84\[[^\]]*\]/, '')
      const place = definitionOf(code).toDegrees?.(...inside) ?? [0, 0]
      const [named, listed] = [prj, code].map(
        (text) => definitionOf(text).fromDegrees?.(...place) ?? [NaN, NaN],
      )
      expect(Math.hypot(named[0] - listed[0], named[1] - listed[1]), code).toBeLessThan(5)
      expect(definitionOf(prj).accuracyM, code).toBeGreaterThan(0)
    }
  })

  it('in grads from a prime meridian of their own are read right', () => {
    const [grads, degrees] = [inGrads, inDegrees].map(
      (text) => definitionOf(text).fromDegrees?.(3.4, 46.5) ?? [NaN, NaN],
    )
    expect(Math.hypot(grads[0] - degrees[0], grads[1] - degrees[1])).toBeLessThan(0.01)
  })

  it.runIf(hasProgram)('agree with an independent program to what they say of themselves', () => {
    const places: [string, number, number][] = [
      ['EPSG:27700', -2, 53],
      ['EPSG:31467', 9, 51],
      ['EPSG:28992', 5.4, 52.2],
      ['EPSG:31370', 4.5, 50.6],
      ['EPSG:27572', 2.5, 47],
      ['EPSG:2154', 3, 46.5],
      ['EPSG:25832', 9, 51],
      ['EPSG:2193', 173, -41],
      ['EPSG:3035', 10, 52],
      ['EPSG:5514', 15, 50],
    ]
    for (const [code, lon, lat] of places) {
      const { fromDegrees, accuracyM } = definitionOf(code)
      const [x, y] = fromDegrees?.(lon, lat) ?? [NaN, NaN]
      const [ex, ey] = elsewhere(code, lon, lat)
      // The other program may have files of shifts, which are better by what is said here.
      expect(Math.hypot(x - ex, y - ey), code).toBeLessThan(2 + 2.5 * (accuracyM ?? 5))
    }
  })

  it('whose axes point south or west, or count in grads, keep them as files have them', () => {
    // Coordinates of an independent program for a place, in the order and with the signs of the system.
    for (const [code, lon, lat, a, b] of [
      ['EPSG:2048', 19.5, -33, -46_726.851, 3_652_859.088],
      ['EPSG:29371', 12, -23, -102_547.564, 111_040.546],
      ['EPSG:4807', 3, 46, 0.663_431 / 0.9, 46.000_037 / 0.9],
    ] as const) {
      const { toDegrees, fromDegrees } = definitionOf(code)
      const [x, y] = fromDegrees?.(lon, lat) ?? []
      expect(Math.abs((x as number) - a), code).toBeLessThan(Math.abs(a) * 1e-4)
      expect(Math.abs((y as number) - b), code).toBeLessThan(Math.abs(b) * 1e-4)
      const back = toDegrees?.(a, b) ?? [NaN, NaN]
      expect(geodesicMetres([lon, lat], back as [number, number]), code).toBeLessThan(20)
    }
    // Southing before westing, both positive in their land.
    expect(
      definitionOf('EPSG:5513')
        .fromDegrees?.(15, 50)
        .map((v) => Math.round(v / 1e4)),
    ).toEqual([106, 70])
  })

  it('that come out too far from where they lie are refused in words', () => {
    for (const code of ['EPSG:5170', 'EPSG:8441'])
      expect(() => definitionOf(code), code).toThrow(/cannot be reckoned with here/)
  })

  it('are said to be no better than they were measured to be', () => {
    for (const { code, accuracyM } of referenceSystems()) {
      const off = measured[code.slice(5) as keyof typeof measured] as number | undefined
      if (off !== undefined) expect(accuracyM, code).toBeGreaterThanOrEqual(off)
    }
  })
})
