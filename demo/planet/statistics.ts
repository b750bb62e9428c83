import { normal, seededRandom } from '../lindmere/random'
import type { Planet } from './planet'

/** A figure as an office publishes it: one row for each state, year and indicator, with flags and gaps. */
export type Figure = {
  state: string
  year: number
  indicator: string
  unit: string
  value: number | null
  flag: string
}

export const indicators = [
  { name: 'Population', unit: 'persons' },
  { name: 'Adults who read books', unit: '% of adults' },
  { name: 'Libraries', unit: 'per 100,000 residents' },
  { name: 'Library loans', unit: 'per resident' },
] as const

export const years = [2018, 2019, 2020, 2021, 2022, 2023, 2024, 2025]

/**
 * Statistics of every state in long form. Some are estimated (`e`), some break with those before (`b`), some are
 * confidential or missing; three states report nothing.
 */
export function planetStatistics({ states }: Planet, seed = 88): Figure[] {
  const random = seededRandom(seed)
  return states.flatMap(({ properties, geometry }, i): Figure[] => {
    if (i % 71 === 40) return []
    const lat = Math.abs(geometry.coordinates[0][0][0][1])
    const people = Math.exp(14 + 1.5 * normal(random)) * Math.max(0.05, 1 - lat / 95) * (i === 2 ? 30 : 1)
    const wealth = 0.5 + 0.25 * normal(random) + (properties.land === 'Northern' ? 0.2 : 0)
    const growth = 0.012 + 0.01 * normal(random)
    const reading = 100 / (1 + Math.exp(-(0.4 + 1.4 * wealth + 0.5 * normal(random))))
    return years.flatMap((year, y): Figure[] =>
      indicators.map(({ name, unit }, k): Figure => {
        const values = [
          Math.round(people * (1 + growth) ** y),
          Number(Math.min(98, reading + 0.6 * y + 0.8 * normal(random)).toFixed(1)),
          Number(Math.max(0.1, 4 + 9 * wealth + 0.4 * normal(random)).toFixed(1)),
          Number(Math.max(0, 2 + 7 * wealth - 0.15 * y + 0.3 * normal(random)).toFixed(2)),
        ]
        const chance = random()
        const missing = chance < 0.03 || (k > 1 && i % 23 === 5)
        return {
          state: properties.officialName,
          year,
          indicator: name,
          unit,
          value: missing ? null : values[k],
          flag: flagOf(missing, chance),
        }
      }),
    )
  })
}

function flagOf(missing: boolean, chance: number): string {
  if (missing) return ':'
  if (chance > 0.96) return 'e'
  return chance > 0.95 ? 'b' : ''
}
