import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import type { Dots } from '@/core/scene/outline'
import { nodeSurface } from '../raster/bitmap'
import { stampDots } from './dots'

const [widthPx, heightPx] = [120, 80]
const fresh = (): SKRSContext2D => createCanvas(widthPx, heightPx).getContext('2d')
const as = (context: SKRSContext2D) => context as unknown as CanvasRenderingContext2D
const size = { surface: nodeSurface, widthPx, heightPx }
const dotsOf = (coords: number[], r = 1.3): Dots => ({
  kind: 'dots',
  coords: Float64Array.from(coords),
  r,
  place: { scale: 1, dx: 0, dy: 0 },
})
/** A net of dots with places between the pixels. */
const net = Array.from({ length: 400 }, (_, i) => [
  3.3 + (i % 25) * 4.61 + 0.3 * Math.sin(i),
  2.7 + Math.floor(i / 25) * 4.83 + 0.3 * Math.cos(3 * i),
]).flat()
const alphas = (context: SKRSContext2D): Uint8ClampedArray =>
  context.getImageData(0, 0, widthPx, heightPx).data.filter((_, i) => i % 4 === 3)

describe('stamped dots', () => {
  it('cover the pixels that circles cover', () => {
    const stamped = fresh()
    expect(stampDots(as(stamped), dotsOf(net), '#123456', size)).toBe(true)
    const circles = fresh()
    circles.fillStyle = '#123456'
    for (let i = 0; i < net.length; i += 2) {
      circles.beginPath()
      circles.arc(net[i], net[i + 1], 1.3, 0, 2 * Math.PI)
      circles.fill()
    }
    const [a, b] = [alphas(stamped), alphas(circles)]
    const sum = (list: Uint8ClampedArray) => list.reduce((all, n) => all + n, 0)
    expect(sum(a) / sum(b)).toBeCloseTo(1, 1.5)
    // Canvases smooth the edges of circles in quarters of a pixel; ours are finer, so single pixels differ.
    const differences = a.map((n, i) => Math.abs(n - b[i])).filter((_, i) => a[i] || b[i])
    expect(Math.max(...differences)).toBeLessThan(80)
    expect(sum(differences) / differences.length).toBeLessThan(12)
  })

  it('have as much area as discs have, however small they are', () => {
    for (const r of [0.2, 0.5, 1.7]) {
      const context = fresh()
      stampDots(as(context), dotsOf(net, r), '#000000', size)
      const covered = alphas(context).reduce((all, n) => all + n / 255, 0)
      expect(covered / (400 * Math.PI * r * r)).toBeGreaterThan(0.93)
      expect(covered / (400 * Math.PI * r * r)).toBeLessThan(1.07)
    }
  })

  it('have the colour that is asked for, and lie over what is there', () => {
    const context = fresh()
    context.fillStyle = '#ffffff'
    context.fillRect(0, 0, widthPx, heightPx)
    stampDots(
      as(context),
      dotsOf(
        Array.from({ length: 800 }, (_, i) => (i % 2 ? 40 : 60)),
        5,
      ),
      '#c02040',
      size,
    )
    expect([...context.getImageData(60, 40, 1, 1).data]).toEqual([192, 32, 64, 255])
    expect([...context.getImageData(80, 40, 1, 1).data]).toEqual([255, 255, 255, 255])
  })

  it('pass over what is nowhere, and what lies outside', () => {
    const context = fresh()
    const away = Array.from({ length: 800 }, (_, i) => (i % 4 < 2 ? NaN : 1e5))
    expect(stampDots(as(context), dotsOf(away), '#000000', size)).toBe(true)
    expect(alphas(context).every((n) => n === 0)).toBe(true)
  })

  it('are left to circles where they are few, large or turned', () => {
    expect(stampDots(as(fresh()), dotsOf(net.slice(0, 100)), '#000000', size)).toBe(false)
    expect(stampDots(as(fresh()), dotsOf(net, 30), '#000000', size)).toBe(false)
    const turned = fresh()
    turned.rotate(0.3)
    expect(stampDots(as(turned), dotsOf(net), '#000000', size)).toBe(false)
  })
})
