import { fillings, roundValue } from '@/core/cartogram/blocks/allot'
import { mostBodies } from '@/core/cartogram/blocks/layout'
import { blockSide } from '@/core/cartogram/block-grid'
import { formatNumber } from '@/core/classify/labels'
import { rowName } from '@/core/data/row-names'
import { featureAt } from '@/core/geo/feature-at'
import { groundAreas } from '@/core/geo/measure'
import { firstSize, totals } from '../cartogram'
import { choropleth } from '../choropleth'
import type { KindData, MapKind } from '../kind'
import { drawBlocks } from './draw'
import { blocksLegend, blocksLines, worthWords } from './legend'
import { mostBlocks, planBlocks, type BlocksPlan } from './plan'
import { blocksSentence } from './sentence'
import { makeBlocks, type BlocksShapes } from './shapes'
import { BlocksSettings } from './spec'

/** About so many blocks are proposed at first: they are counted at a glance, and areas still have shapes. */
const firstBlocks = 1200

const counted = (n: number, one: string, many: string): string =>
  `${formatNumber(n, 0)} ${n === 1 ? one : many}`

/** A list of names that does not grow without end. */
const namesOf = (names: string[]): string =>
  names.length > 4 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')

/** What was lost, and what does not add up, in words. */
function remarkOf(shapes: BlocksShapes): string {
  if (!shapes) return ''
  const { judged, drawnIn, unplaced, lost, tooMany } = shapes
  if (tooMany)
    return `${formatNumber(tooMany, 0)} areas are too many to be laid out as blocks, of which there are up to ${formatNumber(mostBodies, 0)}: put small ones together, or let a block stand for more.`
  if (!judged.wanted && !unplaced.areas) return 'No area is worth half a block.'
  return [
    ...(judged.wrong.length
      ? [
          `${counted(judged.wrong.length, 'area has', 'areas have')} another number of blocks than it is worth.`,
        ]
      : []),
    ...(judged.torn.length ? [`${counted(judged.torn.length, 'area is', 'areas are')} in pieces.`] : []),
    ...(unplaced.areas
      ? [
          `${counted(unplaced.areas, 'area', 'areas')} of ${counted(unplaced.blocks, 'block', 'blocks')} that the projection does not show left out.`,
        ]
      : []),
    ...(lost.blocks
      ? [
          `${counted(lost.blocks, 'block', 'blocks')} placed by hand for what is not there any more left out: ${namesOf(lost.names)}.`,
        ]
      : []),
    ...(lost.twice
      ? [
          `${counted(lost.twice, 'block that two areas have is', 'blocks that two areas have are')} the first one’s.`,
        ]
      : []),
    ...(drawnIn
      ? [`${counted(drawnIn, 'shape reaches', 'shapes reach')} over the edge of the world and was drawn in.`]
      : []),
  ].join(' ')
}

function figuresOf(shapes: BlocksShapes): string[] {
  if (!shapes) return []
  const { has, wanted, wrong, pairs, touching, overWater, likeness, shift, turnedDeg } = shapes.judged
  if (!wanted) return []
  return [
    wrong.length
      ? `${formatNumber(has, 0)} of ${formatNumber(wanted, 0)} blocks placed, ${counted(wrong.length, 'area', 'areas')} not right`
      : `${counted(has, 'block', 'blocks')}, every area exact`,
    ...(pairs
      ? [
          `${formatNumber(touching, 0)} of ${formatNumber(pairs, 0)} borders kept (${formatNumber((100 * touching) / pairs, 0)} %)`,
        ]
      : []),
    ...(overWater
      ? [`${counted(overWater, 'pair touches', 'pairs touch')} where there is water between them`]
      : []),
    `shapes alike to ${formatNumber(100 * likeness, 0)} %`,
    `moved by ${formatNumber(shift, 1)} blocks in the mean, neighbours turned by ${formatNumber(turnedDeg, 0)}°`,
  ]
}

/** What a block stands for at first, and how large it is on the ground. */
export function firstBlock(data: KindData, size: string): Pick<BlocksSettings, 'value' | 'sideM'> {
  const column = data.dataset.fields.find(({ key }) => key === size)?.column
  const ground = groundAreas(data.dataset.geometry)
  let [total, m2] = [0, 0]
  if (column?.kind === 'number')
    for (let row = 0; row < data.dataset.rowCount; row++)
      if (ground[row] > 0 && column.values[row] > 0) {
        total = Math.min(Number.MAX_VALUE, total + column.values[row])
        m2 += ground[row]
      }
  if (!(total > 0)) return { value: 1, sideM: 1000 }
  const value = roundValue(total / firstBlocks)
  return { value, sideM: blockSide('hexagons', m2 * (value / total)) }
}

/** Areas as blocks of one worth, exact to the block. */
export const blocks: MapKind<BlocksSettings, BlocksPlan, BlocksShapes> = {
  ...choropleth,
  label: 'Block cartogram',
  comparesAreas: false,
  fits: 'Fit for amounts with shades',
  settings: BlocksSettings,
  accepts: (data) => data.dataset.geometry.kind === 'areas' && totals(data).length > 0,
  worthUpTo: 1000,
  // Outlines tell areas of one colour apart, and a mask lies on the ground.
  chip: (plan, settings) =>
    settings.parts.length ? settings.parts.map(({ colour }) => colour) : choropleth.chip(plan, settings),
  own: ['outline', 'mask'],
  // Blocks take long to find their places: nobody asked for them yet.
  suggests: () => [],
  initial(data) {
    const first = choropleth.initial(data)
    const size = firstSize(data)
    const region = data.dataset.fields.find(({ key, column }) => {
      if (column.kind !== 'text') return false
      // A region holds several rows, and there are several of them.
      return data.fieldMeta(key).role === 'category' && column.dictionary.length < data.dataset.rowCount / 3
    })
    return {
      ...first,
      outline: {
        ...first.outline,
        colour: '#3c474c',
        widthPt: 0.5,
        coastColour: '#3c474c',
        coastWidthPt: 0.5,
      },
      size,
      shape: 'hexagons',
      ...firstBlock(data, size),
      filled: fillings.normal,
      seed: 1,
      byRule: true,
      region: region?.key ?? null,
      groups: [],
      alone: [],
      lines: { colour: '#ffffff', widthPt: 0.25 },
      parts: [],
      hand: null,
      kept: [],
    }
  },
  plan: planBlocks,
  shapes: {
    key: ({ size, shape, value, sideM, seed, byRule, region, groups, alone, parts, hand }) =>
      JSON.stringify([
        [size, shape, value, sideM, byRule, region],
        hand ? null : seed,
        [groups, alone],
        parts.map(({ field }) => field),
        hand,
      ]),
    remark: remarkOf,
    figures: figuresOf,
    onPaper: true,
    make: makeBlocks,
    ready: null,
    at(shapes, place, { plan, settings, data }) {
      const feature = shapes ? featureAt(shapes.dataset.geometry, ...place) : -1
      const reading = feature >= 0 ? blocks.read(plan, settings, data, feature) : null
      const body = plan.bodies[plan.bodyOf[feature]]
      const name = body && body.rows.length > 1 ? body.name : rowName(data, feature)
      return reading && { feature, name, reading }
    },
    outlined: (shapes) => shapes?.dataset.geometry ?? null,
    rows: (shapes) => shapes?.dataset ?? null,
    named: null,
    bend: null,
    rough: null,
  },
  draw: drawBlocks,
  legend: blocksLegend,
  legendLines: blocksLines,
  sentence: blocksSentence,
  classings: (settings) => (settings.parts.length ? [] : [settings]),
  classification: (plan, settings, data, which) =>
    settings.parts.length ? null : choropleth.classification(plan, settings, data, which),
  remap(settings, data) {
    const has = (key: string | null) => key !== null && data.dataset.fields.some((field) => field.key === key)
    const size = has(settings.size) ? settings.size : firstSize(data)
    return {
      ...settings,
      ...choropleth.remap(settings, data),
      size,
      ...(size === settings.size ? {} : firstBlock(data, size)),
      region: has(settings.region) ? settings.region : null,
      parts: settings.parts.filter(({ field }) => has(field)),
    }
  },
  years: choropleth.years && {
    ...choropleth.years,
    to: (settings, data, year) => ({ ...settings, ...choropleth.years?.to(settings, data, year) }),
    together: (settings, overYears) => ({ ...settings, ...choropleth.years?.together(settings, overYears) }),
  },
  showField: (settings, field) => ({ ...settings, field, uncertainty: null, parts: [] }),
  read(plan, settings, data, feature) {
    const body = plan.bodies[plan.bodyOf[feature]]
    const shade = choropleth.read(plan, settings, data, feature)
    if (!shade || !body) return shade
    const { label, unit } = data.fieldMeta(settings.size)
    const amount = `${label}: ${formatNumber(body.amount, body.amount % 1 ? 1 : 0)} ${unit}`.trim()
    const members = body.rows.length > 1 ? `${body.rows.length} areas · ` : ''
    return {
      ...shade,
      detail: `${members}${counted(body.blocks, 'block', 'blocks')} · ${amount} · ${shade.detail}`,
    }
  },
  caution(plan, settings, data) {
    const { role, label } = data.fieldMeta(settings.size)
    const [better] = totals(data)
    if (role !== 'total' && better)
      return {
        words: `“${label}” is no amount: blocks cannot be counted by it.`,
        remedies: [
          {
            label: `blocks by ${data.fieldMeta(better).label}`,
            settings: { ...settings, size: better, ...firstBlock(data, better), hand: null },
          },
        ],
      }
    if (settings.parts.length && Math.abs(plan.partsShare - 1) > 0.005)
      return {
        words: `The fields that share out the blocks add up to ${formatNumber(100 * plan.partsShare, 1)} % of “${label}”.`,
        remedies: [],
      }
    if (plan.blocks >= mostBlocks)
      return {
        words: `More than ${formatNumber(mostBlocks, 0)} blocks: a block is to stand for more than ${worthWords(settings, data)}.`,
        remedies: [
          {
            label: `one block for ${formatNumber(roundValue(plan.total / firstBlocks), 0)}`,
            settings: { ...settings, value: roundValue(plan.total / firstBlocks), hand: null },
          },
        ],
      }
    return null
  },
}
