import { normal, pick, seededRandom, type Random } from './random'

export type DistrictFacts = {
  code: string
  areaKm2: number
  townness: number
  noise: number
  remote: boolean
}

const years = Array.from({ length: 16 }, (_, i) => 2010 + i)

/** Members by age; they add up to all members. */
export const ageColumns = [
  'members_under_18',
  'members_18_to_39',
  'members_40_to_64',
  'members_65_and_over',
] as const

export const returnColumns = [
  'code',
  'population',
  'households',
  'area_km2',
  ...years.map((y) => `lib_loans_${y}`),
  'lib_members',
  'lib_spending',
  'med_hh_income',
  'med_hh_income_moe',
  'main_lending_format',
  'book_van_stops',
  ...ageColumns,
]

export type ReturnRow = Record<string, string>

/**
 * One line of the libraries' returns for each district: skewed, clustered in space, with a few extreme
 * values, many districts without a book van, and four that sent in no loans for 2025.
 */
export function districtReturns(districts: DistrictFacts[], random: Random): ReturnRow[] {
  const rows = districts.map((district) => returnOf(district, random))
  const busiest = [...districts.keys()].sort((a, b) => districts[b].townness - districts[a].townness)
  // Two districts lend far more than all others: with equal intervals a class comes out empty.
  for (const [rank, perHead] of [
    [1, 11.2],
    [6, 9.6],
  ] as const)
    scaleLoans(rows[busiest[rank]], perHead)
  const ages = seededRandom(rows.length + 2025)
  for (const [i, row] of rows.entries()) addAges(row, districts[i], ages)
  for (const i of [busiest[40], busiest[75], busiest[110], busiest[150]]) rows[i].lib_loans_2025 = ''
  return rows
}

function returnOf({ code, areaKm2, townness, noise, remote }: DistrictFacts, random: Random): ReturnRow {
  const population = Math.max(
    140,
    Math.round(areaKm2 * 9 * Math.exp(4.9 * townness ** 0.8) * Math.exp(0.45 * normal(random))),
  )
  const households = Math.round(population / (2.05 + 0.5 * random()))
  const perHead = Math.max(
    0.35,
    3.2 + 1.5 * noise + 1.9 * townness + 0.55 * normal(random) - (remote ? 1.2 : 0),
  )
  const decline = 0.012 + 0.02 * noise + 0.012 * normal(random)
  const members = Math.round(
    population * Math.min(0.7, Math.max(0.06, 0.17 + 0.03 * perHead + 0.03 * normal(random))),
  )
  const income = Math.round((21_500 + 5200 * townness + 2600 * noise + 1700 * normal(random)) / 10) * 10
  const margin = Math.round((income * (0.02 + 9 / Math.sqrt(households + 200))) / 10) * 10
  const row: ReturnRow = {
    code,
    population: String(population),
    households: String(households),
    area_km2: areaKm2.toFixed(1),
  }
  for (const year of years) {
    const change = 1 + (2025 - year) * decline + 0.03 * normal(random)
    row[`lib_loans_${year}`] = String(
      Math.max(0, Math.round(population * perHead * (year === 2025 ? 1 : Math.max(0.3, change)))),
    )
  }
  row.lib_members = String(members)
  row.lib_spending = String(Math.round(members * (38 + 9 * random()) + 5200))
  row.med_hh_income = String(income)
  row.med_hh_income_moe = String(margin)
  if (townness > 0.45) row.main_lending_format = pick(random, ['Digital', 'Mixed', 'Mixed', 'Print'])
  else if (remote) row.main_lending_format = 'Audio'
  else row.main_lending_format = pick(random, ['Print', 'Print', 'Print', 'Mixed', 'Audio'])
  row.book_van_stops = String(townness > 0.22 || random() < 0.45 ? 0 : Math.ceil(2 + 14 * random() ** 2))
  return row
}

/** Towns have young members, the far country old ones; children are many in between. */
function addAges(row: ReturnRow, { townness, remote }: DistrictFacts, random: Random): void {
  const weights = [
    1.1 + 0.35 * Math.sin(7 * townness) + 0.12 * normal(random),
    0.55 + 1.7 * townness + 0.12 * normal(random),
    1.1 + 0.12 * normal(random),
    (remote ? 1.7 : 1.15) - 0.75 * townness + 0.12 * normal(random),
  ].map((weight) => Math.max(0.15, weight))
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const members = Number(row.lib_members)
  let [given, share] = [0, 0]
  for (const [i, key] of ageColumns.entries()) {
    share += weights[i] / whole
    const upTo = i === ageColumns.length - 1 ? members : Math.round(members * share)
    row[key] = String(upTo - given)
    given = upTo
  }
}

function scaleLoans(row: ReturnRow, perHead: number): void {
  const factor = (perHead * Number(row.population)) / Number(row.lib_loans_2025)
  for (const year of years)
    row[`lib_loans_${year}`] = String(Math.round(Number(row[`lib_loans_${year}`]) * factor))
}

/**
 * What happens to codes on their way through many hands: three are written differently, two belong to no
 * district, and two districts have no line at all.
 */
export function spoilCodes(rows: ReturnRow[]): ReturnRow[] {
  const spoiled: Record<string, string> = { LM017: 'lm017', LM044: 'LM 044', LM083: 'LM83' }
  const lost = new Set(['LM121', 'LM139'])
  const kept = rows
    .filter((row) => !lost.has(row.code))
    .map((row) => ({ ...row, code: spoiled[row.code] ?? row.code }))
  return [...kept, { ...rows[120], code: 'LM900' }, { ...rows[138], code: 'ZZ001' }]
}
