/**
 * Arrows drawn in a circle of radius 1 around the middle, y upwards, north up. `dark` is the first colour, `light` the
 * second; lines are as wide as the settings say, times `weight`.
 */
export type Stroke =
  | { draw: 'area'; points: [number, number][]; fill: 'dark' | 'light'; outlined?: boolean }
  | { draw: 'line'; points: [number, number][]; weight?: number; closed?: boolean }
  | { draw: 'ring'; r: number; at?: [number, number]; fill?: 'dark' | 'light'; weight?: number }

export type Look = {
  label: string
  strokes: Stroke[]
  /** Where the letter stands, and how high it is; null for a look without one. */
  letter: { at: [number, number]; height: number } | null
  /** Letters of the other quarters, for roses. */
  quarters?: { letter: string; at: [number, number]; height: number }[]
}

const at = (deg: number, r: number): [number, number] => [
  r * Math.sin((deg * Math.PI) / 180),
  r * Math.cos((deg * Math.PI) / 180),
]
const area = (fill: 'dark' | 'light', ...points: [number, number][]): Stroke => ({
  draw: 'area',
  points,
  fill,
  outlined: true,
})
const line = (...points: [number, number][]): Stroke => ({ draw: 'line', points })

/** A ray of a star in two halves, the one towards the sun lit. */
const ray = (deg: number, length: number, width: number, half: number): Stroke[] => [
  area('light', [0, 0], at(deg - half, width), at(deg, length)),
  area('dark', [0, 0], at(deg + half, width), at(deg, length)),
]

const star = (count: number, length: number, width: number, from = 0): Stroke[] =>
  Array.from({ length: count }, (_, i) => ray(from + (360 * i) / count, length, width, 180 / count)).flat()

const ticks = (every: number, from: number, to: number, weight = 1): Stroke[] =>
  Array.from({ length: 360 / every }, (_, i) => ({
    draw: 'line' as const,
    points: [at(i * every, from), at(i * every, to)],
    weight,
  }))

const above = { at: [0, 0.86] as [number, number], height: 0.3 }

/** The looks of north arrows, our own drawings, from a hairline to an ornamental rose. */
export const looks = {
  hair: {
    label: 'Hairline',
    strokes: [line([0, -1], [0, 0.6]), line([-0.14, 0.3], [0, 0.6], [0.14, 0.3])],
    letter: above,
  },
  barb: {
    label: 'Single barb',
    strokes: [line([0, -1], [0, 0.6]), area('dark', [0, 0.6], [0, 0.1], [0.24, -0.06])],
    letter: above,
  },
  wedge: {
    label: 'Wedge',
    strokes: [area('dark', [0, 0.62], [0.36, -0.9], [0, -0.58], [-0.36, -0.9])],
    letter: above,
  },
  fold: {
    label: 'Folded paper',
    strokes: [
      area('light', [0, 0.62], [0, -0.58], [-0.36, -0.9]),
      area('dark', [0, 0.62], [0.36, -0.9], [0, -0.58]),
    ],
    letter: above,
  },
  needle: {
    label: 'Needle',
    strokes: [
      area('dark', [0, 0.62], [0.17, -0.18], [-0.17, -0.18]),
      area('light', [0, -0.98], [0.17, -0.18], [-0.17, -0.18]),
      { draw: 'ring', r: 0.06, at: [0, -0.18], fill: 'light' },
    ],
    letter: above,
  },
  disc: {
    label: 'Disc',
    strokes: [
      { draw: 'ring', r: 0.62, at: [0, -0.3] },
      area('dark', [0, 0.62], [0.22, -0.62], [0, -0.46], [-0.22, -0.62]),
    ],
    letter: above,
  },
  quill: {
    label: 'Quill',
    strokes: [
      line([0, -1], [0, 0.3]),
      area('dark', [0, 0.62], [0.13, 0.2], [-0.13, 0.2]),
      ...[-0.98, -0.84, -0.7].flatMap((y): Stroke[] => [
        line([0, y], [-0.16, y - 0.14]),
        line([0, y], [0.16, y - 0.14]),
      ]),
    ],
    letter: above,
  },
  steps: {
    label: 'Three roofs',
    strokes: [0.62, 0.14, -0.34].map((y): Stroke => ({
      draw: 'line',
      points: [
        [-0.34, y - 0.42],
        [0, y],
        [0.34, y - 0.42],
      ],
      weight: 1.6,
    })),
    letter: above,
  },
  beacon: {
    label: 'Beacon',
    strokes: [
      area('dark', [0, 0.62], [0.09, 0.2], [-0.09, 0.2]),
      { draw: 'ring', r: 0.12, at: [0, 0.08], fill: 'light' },
      area('dark', [-0.06, -0.04], [0.06, -0.04], [0.16, -0.92], [-0.16, -0.92]),
      {
        draw: 'line',
        points: [
          [-0.3, -0.96],
          [0.3, -0.96],
        ],
        weight: 1.6,
      },
    ],
    letter: above,
  },
  cross: {
    label: 'Four rays',
    strokes: [...star(4, 0.62, 0.14), { draw: 'ring', r: 0.05, fill: 'light' }],
    letter: { at: [0, 0.84], height: 0.3 },
  },
  rose: {
    label: 'Rose of eight',
    strokes: [
      { draw: 'ring', r: 0.46 },
      ...star(4, 0.46, 0.12, 45),
      ...star(4, 0.7, 0.15),
      { draw: 'ring', r: 0.05, fill: 'light' },
    ],
    letter: { at: [0, 0.87], height: 0.24 },
  },
  'great-rose': {
    label: 'Great rose',
    strokes: [
      { draw: 'ring', r: 0.76 },
      { draw: 'ring', r: 0.7 },
      ...ticks(10, 0.7, 0.76, 0.7),
      ...ticks(30, 0.66, 0.76),
      ...star(8, 0.42, 0.07, 22.5),
      ...star(4, 0.52, 0.11, 45),
      ...star(4, 0.68, 0.14),
      { draw: 'ring', r: 0.12, fill: 'light' },
      { draw: 'ring', r: 0.05, fill: 'dark' },
    ],
    letter: { at: [0, 0.89], height: 0.2 },
    quarters: [
      { letter: 'E', at: [0.89, 0], height: 0.16 },
      { letter: 'S', at: [0, -0.89], height: 0.16 },
      { letter: 'W', at: [-0.89, 0], height: 0.16 },
    ],
  },
} as const satisfies Record<string, Look>

export type LookId = keyof typeof looks
export const lookIds = Object.keys(looks) as [LookId, ...LookId[]]
