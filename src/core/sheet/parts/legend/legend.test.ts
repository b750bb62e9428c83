import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import { classesOf } from '@/core/map/layer-plan'
import { sheetContext, sheetFonts } from '../../compose-sheet'
import { panelsOf, type PanelPart } from '../../panel-view'
import { makePart } from '../../registry'
import { smallMultiples, variantsOf } from '../../small-multiples'
import type { Part, Sheet } from '../../spec'
import { allLines, explainedPanels, layOutLegend, legend, plainLegend, type LegendSettings } from './index'

const { folio, datasets } = openDemo()
const [sheet] = folio.sheets
const [main] = panelsOf(sheet)
const map = folio.maps.find(({ id }) => id === main.settings.mapId)!
const layer = map.layers.find(({ inLegend }) => inLegend)!

const contextOf = (parts: Part[]) => {
  const own: Sheet = { ...sheet, parts }
  const fonts = fontBookOf(sheetFonts(own, folio.maps, folio.typeStyles))
  return sheetContext({
    sheet: own,
    maps: folio.maps,
    typeStyles: folio.typeStyles,
    datasets,
    fonts,
    folioName: '',
    author: '',
    date: new Date(0),
  })
}
const box = { x: 0, y: 0, width: 60, height: 10 }
const linesOf = (more: Partial<LegendSettings>, parts: Part[]) => {
  const settings = plainLegend({ panelId: main.id, ...more })
  const context = contextOf([...parts, makePart('legend', { id: 'l', name: 'Legend', box }, settings)])
  return layOutLegend(settings, box, context).placed.map(({ line }) => line)
}
const closeUp = (centre: [number, number], scaleDenominator: number): PanelPart => ({
  ...main,
  settings: { ...main.settings, view: { centre, scaleDenominator } },
})

describe('a legend of several panels', () => {
  const years = variantsOf(layer, datasets, 'years')
  let n = 0
  const multiples = smallMultiples(main, years, {
    division: { columns: 6, rows: 3, gutterX: 2, gutterY: 2 },
    newId: () => `m${n++}`,
    layers: map.layers,
    prepared: datasets.get(layer.datasetId),
  })
  const all = multiples.slice(1).map(({ id }) => id)

  it('explains what they have in common once, under a heading that fits all', () => {
    const one = linesOf({}, multiples)
    const many = linesOf({ alsoPanels: all }, multiples)
    expect(one[0].text).toMatch(/2010/)
    expect(many[0].text).not.toMatch(/20\d\d/)
    expect(many.slice(1).map(({ text }) => text)).toEqual(one.slice(1).map(({ text }) => text))
  })

  it('explains what differs beside it, and words of one are not those of the other', () => {
    const other = folio.maps.find(({ id }) => id === 'income')!
    const second: PanelPart = { ...main, id: 'second', settings: { ...main.settings, mapId: other.id } }
    const lines = linesOf({ alsoPanels: ['second'] }, [main, second])
    const keys = lines.map(({ key }) => key)
    expect(new Set(keys).size).toBe(keys.length)
    expect(lines.filter(({ role }) => role === 'heading').length).toBe(2)
    const reworded = linesOf({ alsoPanels: ['second'], words: { [keys[0]]: 'In our words' } }, [main, second])
    expect(reworded.filter(({ text }) => text === 'In our words')).toHaveLength(1)
  })

  it('leaves a panel out that is gone, and takes none in its place', () => {
    const settings = plainLegend({ panelId: main.id, alsoPanels: ['gone', main.id] })
    expect(explainedPanels(settings, contextOf([main])).map(({ id }) => id)).toEqual([main.id])
    expect(legend.refs(settings).parts).toEqual([main.id, 'gone', main.id])
    const ids = {
      maps: new Map(),
      datasets: new Map(),
      pictures: new Map(),
      parts: new Map([['gone', 'found']]),
    }
    expect(legend.remap(settings, ids)).toMatchObject({ alsoPanels: ['found', main.id] })
  })
})

describe('a legend of what is seen', () => {
  const prepared = datasets.get(layer.datasetId)!
  const classes = classesOf(layer, prepared)!

  it('leaves out classes of which the panel shows nothing, and keeps them in the panel that shows all', () => {
    expect(linesOf({ onlySeen: true }, [main]).map(({ text }) => text)).toEqual(
      linesOf({}, [main]).map(({ text }) => text),
    )
    // The Outer isles have one class.
    const outer = panelsOf(sheet)[1]
    const few = linesOf({ onlySeen: true, panelId: outer.id }, [main, outer])
    expect(few.length).toBeLessThan(linesOf({}, [main]).length)
    expect(few.length).toBeGreaterThanOrEqual(2)
    expect(classes.labels).toContain(few[1].text)
  })

  it('does not name limits of classes that are not there', () => {
    const outer = panelsOf(sheet)[1]
    const roles = linesOf({ onlySeen: true, panelId: outer.id, labelsAt: 'limits' }, [main, outer])
    expect(roles.some(({ role }) => role === 'limit')).toBe(false)
    const bars = linesOf({ onlySeen: true, panelId: outer.id, form: 'histogram' }, [main, outer])
    expect(bars.length).toBeGreaterThanOrEqual(2)
  })

  it('is laid out anew when the panel looks elsewhere', () => {
    const somewhere = linesOf({ onlySeen: true }, [closeUp([-27.9, 50.1], 400_000)]).map(({ text }) => text)
    const nowhere = linesOf({ onlySeen: true }, [closeUp([-20, 44], 400_000)]).map(({ text }) => text)
    expect(nowhere.length).toBeLessThan(somewhere.length)
  })
})

describe('what stands around the entries', () => {
  it('is a title above them in a style of its own, which is not among what follows the map', () => {
    const lines = linesOf({ title: 'Reading' }, [main])
    expect(lines[0]).toMatchObject({ role: 'title', text: 'Reading' })
    const settings = plainLegend({ panelId: main.id, title: 'Reading' })
    expect(allLines(settings, contextOf([main])).some(({ role }) => role === 'title')).toBe(false)
    expect(legend.fonts(settings)).toHaveLength(3)
    expect(legend.fonts(plainLegend({}))).toHaveLength(2)
  })

  it('are no layers that were left out', () => {
    expect(linesOf({ hiddenLayers: [layer.id] }, [main]).some(({ key }) => key.startsWith(layer.id))).toBe(
      false,
    )
  })
})
