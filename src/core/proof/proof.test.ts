import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import type { Folio } from '@/core/folio/schema'
import { sheetContext, sheetFonts } from '@/core/sheet/compose-sheet'
import { newPart } from '@/core/sheet/new-sheet'
import { proofSheet, type ProofLine } from './registry'

const { folio, datasets } = openDemo()
const fonts = fontBookOf(sheetFonts(folio.sheets[0], folio.maps))

/** The proof of the demo sheet after a change. */
function proofAfter(change: (draft: Folio) => void): ProofLine[] {
  const changed = structuredClone(folio)
  change(changed)
  const [sheet] = changed.sheets
  const context = sheetContext({
    sheet,
    maps: changed.maps,
    datasets,
    fonts,
    folioName: changed.name,
    author: '',
    date: new Date(0),
  })
  return proofSheet(sheet, context)
}

const shading = (draft: Folio) => {
  const layer = draft.maps[0].layers.find((l) => l.symbology.kind === 'choropleth')
  if (layer?.symbology.kind !== 'choropleth') throw new Error('The demo has a choropleth.')
  return layer.symbology.settings
}
const part = (draft: Folio, name: string) => {
  const part = draft.sheets[0].parts.find((p) => p.name === name)
  if (!part) throw new Error(`The demo has a part ${name}.`)
  return part
}

describe('the proof', () => {
  it('finds nothing on the demo sheet', () => {
    expect(proofAfter(() => undefined).filter((line) => !line.ok)).toEqual([])
    expect(proofAfter(() => undefined)).toHaveLength(12)
  })

  const cases: [string, string, (draft: Folio) => void, string][] = [
    [
      'an empty class',
      'empty-classes',
      (d) => Object.assign(shading(d), { method: 'equal-interval', classes: 9, rounded: false }),
      'Nothing falls in',
    ],
    [
      'a shaded total',
      'totals-shaded',
      (d) => Object.assign(shading(d), { per: null }),
      'large areas will win',
    ],
    [
      'a scale bar on a cartogram',
      'bar-on-cartogram',
      (d) => {
        const layer = d.maps[0].layers.find(({ symbology }) => symbology.kind === 'choropleth')
        const settings = { ...shading(d), form: 'circles', size: 'population', fill: 0.6 }
        if (layer) Object.assign(layer, { symbology: { kind: 'cartogram', settings } })
      },
      'lie in new places',
    ],
    [
      'blocks that do not add up',
      'blocks-add-up',
      (d) => {
        const blocks = d.maps.flatMap(({ layers }) => layers).find((l) => l.symbology.kind === 'blocks')
        const layer = d.maps[0].layers.find(({ symbology }) => symbology.kind === 'choropleth')
        if (!layer || blocks?.symbology.kind !== 'blocks') throw new Error('The demo has blocks.')
        const settings = { ...blocks.symbology.settings, hand: { Moraova: [0, 0, 2, 5, 9, 9] } }
        Object.assign(layer, { symbology: { kind: 'blocks', settings } })
        part(d, 'Scale bar').hidden = true
      },
      ' has 0 of ',
    ],
    [
      'a missing legend',
      'legend-present',
      (d) => void (part(d, 'Legend').hidden = true),
      'Take a legend from the tray',
    ],
    [
      'a missing source',
      'source-given',
      (d) => void (d.sheets[0].parts = d.sheets[0].parts.filter((p) => p.name !== 'Source note')),
      '{{credits}}',
    ],
    [
      'a fill-in that is not known',
      'fill-ins-known',
      (d) => {
        const note = part(d, 'Source note')
        if (note.type === 'text') note.settings.text = 'Source: {{creditz}}'
      },
      '{{creditz}}',
    ],
    [
      'a missing scale bar',
      'scale-bar',
      (d) => void (part(d, 'Scale bar').hidden = true),
      'Take one from the tray',
    ],
    [
      'a part over the edge',
      'inside-page',
      (d) => void (part(d, 'Legend').box.x = 280),
      '“Legend” runs over the edge',
    ],
    [
      'labels without a place',
      'labels-placed',
      (d) => {
        const { labels } = d.maps[0].layers[0]
        if (labels) Object.assign(labels, { sizePt: 60, importance: 5 })
      },
      'have no room',
    ],
    [
      'labels that are too small',
      'type-size',
      (d) => {
        const { labels } = d.maps[0].layers[0]
        if (labels) labels.sizePt = 4
      },
      'Labels of “Towns” print at 4 pt',
    ],
    [
      'a formula of labels that cannot be used',
      'labels-placed',
      (d) => {
        const { labels } = d.maps[0].layers[0]
        if (labels) labels.text = { by: 'formula', formula: 'nam + 1' }
      },
      'There is no field “nam”.',
    ],
    [
      'type that is too small',
      'type-size',
      (d) => {
        const legend = part(d, 'Legend')
        if (legend.type === 'legend') legend.settings.label.sizePt = 4
      },
      '4 pt',
    ],
  ]
  it('looks whether callouts have something to point at', () => {
    const callout = (place: [number, number]) => {
      const given = { map: folio.maps[0], maps: folio.maps, datasets, pictures: [] }
      const made = newPart('callout', 'callout', { ...given, sheet: folio.sheets[0] })
      if (made?.type !== 'callout') throw new Error('There is no callout.')
      return { ...made, settings: { ...made.settings, place } }
    }
    const about = (place: [number, number]) =>
      proofAfter((d) => void d.sheets[0].parts.push(callout(place))).find(
        ({ id }) => id === 'parts-at-places',
      )
    expect(about([-28.6, 49.9])).toMatchObject({ ok: true, detail: '1 at their places' })
    expect(about([100, -40])).toMatchObject({
      ok: false,
      target: { desk: 'sheet', partId: 'callout' },
      detail: 'The place of “Callout” lies outside its panel: it has no line.',
    })
  })

  for (const [words, id, change, detail] of cases) {
    it(`finds ${words}, and puts it first`, () => {
      const lines = proofAfter(change)
      expect(lines[0]).toMatchObject({ id, ok: false })
      expect(lines[0].detail).toContain(detail)
      expect(lines.filter((line) => !line.ok)).toHaveLength(1)
    })
  }

  it('looks at nothing that lies in a hidden group', () => {
    const hidden = proofAfter((d) => {
      d.maps[0].groups = [{ id: 'g', name: 'G', visible: false, opacity: 1, blend: 'normal', folded: false }]
      for (const layer of d.maps[0].layers) layer.groupId = 'g'
      Object.assign(shading(d), { per: null, method: 'equal-interval', classes: 9, rounded: false })
      const { labels } = d.maps[0].layers[0]
      if (labels) labels.sizePt = 4
    })
    expect(hidden.filter(({ ok }) => !ok).map(({ id }) => id)).toEqual(['source-given'])
    expect(hidden.map(({ id }) => id)).not.toContain('empty-classes')
    expect(hidden.map(({ id }) => id)).not.toContain('labels-placed')
  })

  it('looks at the layers of the scale that a panel has', () => {
    const far = proofAfter((d) => {
      for (const layer of d.maps[0].layers)
        if (layer.symbology.kind === 'choropleth') layer.scales = { closest: null, farthest: 1000 }
      Object.assign(shading(d), { per: null })
    })
    expect(far.map(({ id }) => id)).not.toContain('totals-shaded')
  })

  it('says where to go', () => {
    expect(proofAfter((d) => Object.assign(shading(d), { per: null }))[0].target).toEqual({
      desk: 'map',
      mapId: 'loans',
      layerId: 'loans-per-resident',
    })
    expect(proofAfter((d) => void (part(d, 'Legend').box.x = 280))[0].target).toEqual({
      desk: 'sheet',
      partId: 'legend',
    })
  })
})

describe('the proof of a sheet on a relief', () => {
  const sheet = folio.sheets.find(({ name }) => name === 'Lindmere, A4')
  if (!sheet) throw new Error('The demo has a sheet of the country.')
  const lineAt = (times: number, without = false) => {
    const changed = structuredClone(sheet)
    for (const { settings } of changed.parts)
      if ('view' in settings && settings.view) settings.view.scaleDenominator /= times
    const context = sheetContext({
      sheet: changed,
      maps: folio.maps,
      datasets: without ? withoutTiles() : datasets,
      fonts,
      folioName: folio.name,
      author: '',
      date: new Date(0),
    })
    return proofSheet(changed, context).find(({ id }) => id === 'raster-fine')
  }
  const withoutTiles = () =>
    new Map(
      [...datasets].map(([id, prepared]) => {
        const { raster } = prepared.dataset
        if (!raster) return [id, prepared]
        const fine = { id: '', side: 256, levels: 2, digest: '', bytes: 1 }
        return [id, { ...prepared, dataset: { ...prepared.dataset, raster: { ...raster, fine } } }]
      }),
    )
  it('says how many cells lie along an inch, and where they are too few', () => {
    expect(lineAt(0.8)).toMatchObject({ ok: true })
    expect(lineAt(8)).toMatchObject({
      ok: false,
      detail: expect.stringMatching(/^“Relief” has \d+ of 75 cells/),
    })
  })
  it('says when fine cells are not there', () => {
    expect(lineAt(1, true)?.detail).toMatch(/fine cells are not here/)
  })
})
