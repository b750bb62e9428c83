'use client'
import { Columns2, Map as MapIcon, Maximize, Minus, Plus } from 'lucide-react'
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { featureAt } from '@/core/geo/feature-at'
import type { Pointed } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import { classesIn, kindData } from '@/core/map/layer-plan'
import { usePlan, type Planned } from './plans'
import { drawnLayers } from '@/core/map/drawn'
import { shownOf } from '@/core/map/shown'
import type { Layer, MapSpec, MapView, Vantage } from '@/core/map/spec'
import type { LabelReport } from '@/core/map/label-map'
import { vantageView } from '@/core/map/vantage'
import { hasOwnPlaces } from '@/core/map/fit-made'
import { fitMap, groundMetresPerMm } from '@/core/map/view'
import { entryOf } from '@/core/projection/catalogue'
import { createProjection } from '@/core/projection/projection'
import { mmPerPx } from '@/core/scene/units'
import { barLength } from '@/core/sheet/parts/scale-bar/length'
import { CompareMenu } from '../compare/menu'
import { useFar } from '../compare/use-far'
import { Button, IconButton, Segments } from '../kit/controls'
import { ask } from '@/workers/client'
import { usePrepared } from '../shell/contents'
import { folioNow, useDocument, useFolio } from '../shell/folio-store'
import { isTyping } from '../shell/typing'
import { ClassBench } from './bench/class-bench'
import { Compare } from './bench/compare'
import { useBenchView } from './bench/view'
import { classingOf } from './edit-classing'
import { kindUi } from './kinds/registry'
import { LabelHandles } from './labels/label-handles'
import { useLabelReport } from './labels/report'
import { LayerStack } from './layer-stack'
import { BecomeGallery } from './become/become-gallery'
import { MapWindow } from './map-window'
import { MapList } from './map-list'
import { MapSentence } from './sentence'
import { Vantages } from './vantages'
import { SeriesChart } from './years'
import { panned, zoomed, type SizePx } from './viewing'

export function MapDesk() {
  const folio = useDocument()
  const all = usePrepared()
  const { selection, select } = useFolio()
  const map = folio.maps.find((m) => m.id === selection.mapId) ?? folio.maps[0]
  const layer = map?.layers.find((l) => l.id === selection.layerId) ?? map?.layers[0]
  const prepared = (layer && shownOf(layer, all)) ?? undefined
  if (!map) return <NoMap all={all} />
  return (
    <div className="flex h-full flex-col">
      {layer && prepared ? (
        <MapSentence map={map} layer={layer} prepared={prepared} all={all} />
      ) : (
        <div className="h-[52px] shrink-0 border-b border-line bg-base-100" />
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_300px]">
        <Stage key={map.id} map={map} layer={layer} prepared={prepared} all={all} />
        <aside
          className="flex min-h-0 flex-col border-l border-line bg-base-100 contain-layout"
          aria-label="Layer stack"
          onClick={() => !layer && select({ layerId: null })}
        >
          <MapList map={map} />
          <LayerStack map={map} all={all} />
        </aside>
      </div>
    </div>
  )
}

function NoMap({ all }: { all: Map<string, Prepared> }) {
  const { openDesk } = useFolio()
  const hasShapes = [...all.values()].some(({ dataset }) => formOf(dataset) !== 'none')
  if (hasShapes)
    return (
      <div className="h-full overflow-y-auto">
        <div className="mx-auto max-w-[1160px] px-6 py-5">
          <h2 className="font-serif text-lg font-semibold">What this data can become</h2>
          <p className="mt-0.5 mb-4 text-muted">
            Small maps of your data, the best first. A click makes one the map that you go on with; everything
            can be changed afterwards.
          </p>
          <BecomeGallery all={all} />
        </div>
      </div>
    )
  return (
    <div className="grid h-full place-items-center">
      <div className="max-w-sm text-center">
        <MapIcon size={26} className="mx-auto text-muted" aria-hidden />
        <h2 className="mt-3 font-serif text-lg font-semibold">There is nothing to map yet</h2>
        <p className="mt-1 text-muted">
          {all.size
            ? 'A table has no places of its own: it needs boundaries that share its codes, or fields with coordinates.'
            : 'Boundaries, points, lines or cells can be shown on a map.'}
        </p>
        <Button look="primary" className="mt-4" onClick={() => openDesk('data')}>
          Bring in boundaries
        </Button>
      </div>
    </div>
  )
}

const footPx = 48

type Here = { feature: number; x: number; y: number; made?: Pointed } | null

const onLabels = (report: LabelReport, view: MapView) => useLabelReport.setState({ report, view })

function Stage({
  map,
  layer,
  prepared,
  all,
}: {
  map: MapSpec
  layer: Layer | undefined
  prepared: Prepared | undefined
  all: Map<string, Prepared>
}) {
  const view = useFolio((state) => state.views[map.id]) ?? null
  const setView = useFolio((state) => state.setView)
  const [size, setSize] = useState<SizePx | null>(null)
  const [pointed, setPointed] = useState<Here>(null)
  const [folded, setFolded] = useState(false)
  const [comparing, setComparing] = useState(false)
  const onView = useCallback((next: MapView) => setView(map.id, next), [map.id, setView])
  // The view that the last fit made: as long as nobody has moved it, it is fitted again when the window
  // changes.
  const fitted = useRef<MapView | null>(null)
  const fit = useCallback(
    (window: SizePx) => {
      // The strip with scale and buttons at the foot stays clear of the map.
      const clear = { width: window.width, height: Math.max(120, window.height - footPx) }
      const whole = fitMap(map, all, { width: clear.width * mmPerPx, height: clear.height * mmPerPx })
      if (!whole) return
      const show = (view: MapView) => {
        fitted.current = panned(map, view, { size: clear, dxPx: 0, dyPx: -footPx / 2 })
        setView(map.id, fitted.current)
      }
      show(whole)
      if (!hasOwnPlaces(map, all)) return
      // Where areas have gone is known to the worker; whoever has moved the map meanwhile keeps it as it is.
      const first = fitted.current
      const windowMm = { width: clear.width * mmPerPx, height: clear.height * mmPerPx }
      ask(folioNow(), (worker) => worker.fitShapes(map, windowMm)).then(
        (view) => view && useFolio.getState().views[map.id] === first && show(view),
        () => undefined,
      )
    },
    [map, all, setView],
  )
  const goTo = (vantage: Vantage) => {
    if (!size) return
    const clear = { width: size.width, height: Math.max(120, size.height - footPx) }
    const kept = vantageView(vantage, map, { width: clear.width * mmPerPx, height: clear.height * mmPerPx })
    if (kept)
      onView(vantage.of.by === 'view' ? kept : panned(map, kept, { size: clear, dxPx: 0, dyPx: -footPx / 2 }))
  }
  const latestFit = useRef(fit)
  latestFit.current = fit
  const onSize = useCallback(
    (window: SizePx) => {
      setSize(window)
      const now = useFolio.getState().views[map.id]
      if (!now || now === fitted.current) latestFit.current(window)
    },
    [map.id],
  )
  useEffect(() => {
    // The rows have come in after the window had its size.
    if (!view && size) fit(size)
  }, [view, size, fit])
  const drawn = useMemo(
    () => (layer && drawnLayers({ ...map, layers: [layer] }, view, all)[0]) ?? null,
    [map, layer, view, all],
  )
  const kind = layer && kindOf(layer.symbology.kind)
  const chosen = useBenchView((state) => state.which)
  const which =
    layer && kind ? Math.min(chosen, Math.max(0, kind.classings(layer.symbology.settings).length - 1)) : 0
  // The bench may come a moment later than what somebody is moving.
  const latest = useDeferredValue(usePlan(layer, prepared))
  const planned =
    latest?.layer.id === layer?.id && latest?.layer.symbology.kind === layer?.symbology.kind ? latest : null
  const classes = useMemo(
    () => planned && classesIn(planned.plan, planned.layer, planned.prepared, which),
    [planned, which],
  )
  // What kinds make takes a while: their bench follows a moment later, so that what is moved moves at once.
  const before = useDeferredValue(layer)
  const benched = kind?.shapes && before?.id === layer?.id ? before : layer
  const classing = useMemo(() => (benched ? classingOf(benched, which) : null), [benched, which])
  const latestPlace = useRef<[number, number] | null>(null)
  /** Geometry that a kind made lies in the worker, which is asked for one place at a time. */
  const { projection } = map
  const pointOn = useCallback(
    (on: Layer, place: [number, number] | null, at: { x: number; y: number }) => {
      const busy = latestPlace.current !== null
      latestPlace.current = place
      if (!place) setPointed(null)
      if (busy || !place) return
      void (async () => {
        for (let asked: [number, number] | null = place; asked;) {
          const wanted: [number, number] = asked
          const made = await ask(folioNow(), (worker) => worker.pointedOn(on, wanted, projection)).catch(
            () => null,
          )
          if (latestPlace.current) setPointed(made && { feature: made.feature, ...at, made })
          asked = latestPlace.current === wanted ? null : latestPlace.current
        }
        latestPlace.current = null
      })()
    },
    [projection],
  )
  const { bench, Hands } = layer ? kindUi[layer.symbology.kind] : {}
  const shown = useBenchView((state) => state.bench)
  const showBench = useBenchView((state) => state.showBench)
  const benchChoice = bench && (
    <span className="shrink-0">
      <Segments
        label="Bench"
        value={shown}
        options={[
          { value: 'own', label: bench.label },
          { value: 'classes', label: 'Classes' },
        ]}
        onChange={showBench}
      />
    </span>
  )
  const fold = useCallback(() => setFolded((now) => !now), [])
  const compare = useCallback(() => setComparing(true), [])
  const mark = useCallback((feature: number) => setPointed(feature >= 0 ? { feature, x: 0, y: 0 } : null), [])

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey) return
      if (event.key === 'f' && size) fit(size)
      else if (event.key === 'b') setFolded((now) => !now)
      else if (event.key === 'c') setComparing(true)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [fit, size])

  const looked = useMemo(
    () => (layer && prepared && view && size ? { map, seen: { view, window: size }, layer, prepared } : null),
    [map, view, size, layer, prepared],
  )
  const feature = pointed?.feature ?? -1
  const far = useFar(map)
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      <div className="relative min-h-0 flex-1">
        <MapWindow
          map={map}
          view={view}
          label={`Map: ${map.name}`}
          onView={onView}
          onSize={onSize}
          onPoint={(place, at) => {
            if (layer && kind?.shapes?.at) return pointOn(layer, place, at)
            if (layer && place && stretchedFor(map, layer)) {
              void ask(folioNow(), (worker) => worker.groundUnder(map, place)).then((ground) => {
                const under = ground && drawn ? featureAt(drawn.prepared.dataset.geometry, ...ground) : -1
                setPointed(under >= 0 ? { feature: under, ...at } : null)
              })
              return
            }
            const feature = place && drawn ? featureAt(drawn.prepared.dataset.geometry, ...place) : -1
            setPointed(feature >= 0 ? { feature, ...at } : null)
          }}
          onLabels={onLabels}
          far={far}
          showsDistortion
          mark={feature >= 0 && layer ? { layerId: layer.id, feature } : null}
        >
          {Hands && view && size && layer && planned && planned.layer.id === layer.id && (
            <Hands map={map} layer={layer} plan={planned.plan} view={view} size={size} />
          )}
          {view && size && layer?.labels && <LabelHandles map={map} layer={layer} view={view} size={size} />}
          {view && size && (
            <>
              <ScaleNote map={map} view={view} />
              <div data-over-map className="floating absolute right-3 bottom-3 flex p-0.5">
                <IconButton
                  label="Further away"
                  onClick={() => onView(zoomed(map, view, { size, factor: 1 / 1.5 }))}
                >
                  <Minus size={16} />
                </IconButton>
                <IconButton label="Closer" onClick={() => onView(zoomed(map, view, { size, factor: 1.5 }))}>
                  <Plus size={16} />
                </IconButton>
                <IconButton label="Fit the map" onClick={() => fit(size)}>
                  <Maximize size={15} />
                </IconButton>
                <CompareMenu
                  id={map.id}
                  map={map}
                  trigger={
                    <IconButton label="Compare across a divider" active={far !== null}>
                      <Columns2 size={15} />
                    </IconButton>
                  }
                />
                <Vantages map={map} layer={layer} all={all} view={view} goTo={goTo} />
              </div>
            </>
          )}
          {pointed?.made && <MadeCard made={pointed.made} />}
          {pointed && !pointed.made && planned && <ReadingCard planned={planned} feature={feature} />}
        </MapWindow>
      </div>
      {bench && layer && prepared && planned && (shown === 'own' || !classes) && (
        <bench.Bench
          map={map}
          layer={planned.layer}
          prepared={prepared}
          plan={planned.plan}
          folded={folded}
          onFold={fold}
          choice={classes && benchChoice}
        />
      )}
      {layer && prepared && classes && classing && (!bench || shown === 'classes') && (
        <>
          <ClassBench
            layer={benched ?? layer}
            prepared={prepared}
            classing={classing}
            classes={classes}
            marked={classes.things ? -1 : feature}
            onMark={mark}
            folded={folded}
            onFold={fold}
            onCompare={compare}
            choice={bench && benchChoice}
          />
          {looked && (
            <Compare
              open={comparing}
              onClose={() => setComparing(false)}
              looked={looked}
              classing={classing}
            />
          )}
        </>
      )}
    </div>
  )
}

/** Whether a layer follows the cartogram of another one, so that what is seen at a place lies elsewhere. */
const stretchedFor = ({ stretchedBy, layers }: MapSpec, layer: Layer): boolean =>
  stretchedBy !== null && layer.id !== stretchedBy && layers.some(({ id }) => id === stretchedBy)

/** What is shown of geometry that a kind made: what it is, its value and class. */
function MadeCard({ made: { name, reading } }: { made: Pointed }) {
  return (
    <div
      data-over-map
      role="status"
      className="floating pointer-events-none absolute top-3 right-3 max-w-80 min-w-36 px-3 py-2"
    >
      <p className="font-semibold">{name}</p>
      <p>{reading.value}</p>
      <p className="text-xs text-muted">{reading.detail}</p>
    </div>
  )
}

/** What the pointed feature shows: name, value, class. */
function ReadingCard({ planned, feature }: { planned: Planned; feature: number }) {
  const { layer, prepared, plan } = planned
  const { kind, settings } = layer.symbology
  const reading = kindOf(kind).read(plan, settings, kindData(prepared), feature)
  return (
    <div
      data-over-map
      role="status"
      className="floating pointer-events-none absolute top-3 right-3 min-w-36 px-3 py-2"
    >
      <p className="font-semibold">{rowName(prepared, feature)}</p>
      {reading && (
        <>
          <p>{reading.value}</p>
          <p className="text-xs text-muted">{reading.detail}</p>
          <SeriesChart layer={layer} prepared={prepared} feature={feature} />
        </>
      )}
    </div>
  )
}

function ScaleNote({ map, view }: { map: MapSpec; view: MapView }) {
  const metresPerMm = groundMetresPerMm(createProjection(map.projection), view)
  const bar = barLength(28, metresPerMm, 'metric')
  const width = bar.widthMm / mmPerPx
  return (
    <div
      data-over-map
      className="floating absolute bottom-3 left-3 flex items-center gap-4 px-2.5 py-1.5 text-xs"
    >
      <span title="Scale on a screen of 96 pixels to the inch">
        1 : {formatNumber(Number(view.scaleDenominator.toPrecision(3)), 0)}
      </span>
      <span className="flex items-center gap-2">
        <svg width={width + 2} height="7" aria-hidden>
          <path d={`M1 0V6H${width + 1}V0M${1 + width / 2} 3V6`} fill="none" stroke="currentColor" />
        </svg>
        {formatNumber(bar.total, 0)} {bar.label}
      </span>
      <span className="text-muted">{entryOf(map.projection).label}</span>
    </div>
  )
}
