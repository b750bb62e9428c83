import PDFDocument from 'pdfkit'
import type { Scene } from '@/core/scene/scene'
import { mmToPoints } from '@/core/scene/units'
import type { Georeference } from '@/core/sheet/georeference'
import { viewports } from './measure'
import { PageWriter, type LayerOrder, type PdfInternals, type PdfOptions, type PdfRef } from './page'

/** A page: its scene, what is printed beyond each edge to be cut off, and where its maps lie on the ground. */
export type PdfPage = Scene & { bleedMm?: number; georeferences?: readonly Georeference[] }

/**
 * Writes scenes as the pages of one PDF 1.7 document: vector paths, real text in embedded subsets of its
 * fonts, one optional-content layer for each group that is marked as a layer, transparency groups for opacity
 * and blending, a viewport with its measures for each map, trim and bleed boxes where there is a bleed.
 */
export function writePdf(scenes: PdfPage[], options: PdfOptions): Promise<Uint8Array> {
  const document = new PDFDocument({
    autoFirstPage: false,
    pdfVersion: '1.7',
    compress: true,
    displayTitle: true,
    info: {
      Title: scenes[0]?.title ?? '',
      Author: scenes[0]?.author ?? '',
      ...(scenes[0]?.description && { Subject: scenes[0].description }),
      Creator: 'Keen Plot',
      Producer: 'Keen Plot',
      CreationDate: options.date,
      ModDate: options.date,
    },
  } as PDFKit.PDFDocumentOptions)
  const pieces: Uint8Array[] = []
  return new Promise((resolve, reject) => {
    document.on('data', (piece: Uint8Array) => pieces.push(piece))
    document.on('end', () => resolve(Buffer.concat(pieces)))
    document.on('error', reject)
    try {
      // Layers, blend modes and form objects have no calls of their own; `PdfInternals` names what is used below.
      const internals = document as unknown as PdfInternals
      const layers: LayerOrder = []
      for (const scene of scenes) {
        const { widthMm, heightMm, bleedMm = 0, georeferences = [] } = scene
        const size = [widthMm, heightMm].map((mm) => mmToPoints(mm + 2 * bleedMm)) as [number, number]
        document.addPage({ size, margin: 0 })
        const { data } = internals.page.dictionary
        if (bleedMm > 0) {
          data.BleedBox = [0, 0, ...size]
          data.TrimBox = [bleedMm, bleedMm, widthMm + bleedMm, heightMm + bleedMm].map(mmToPoints)
        }
        if (georeferences.length) data.VP = viewports(internals, georeferences, { heightMm, bleedMm })
        layers.push(...new PageWriter(internals, scene, options).write(bleedMm))
      }
      declareLayers(internals, layers)
      document.end()
    } catch (error) {
      reject(error as Error)
    }
  })
}

function declareLayers(document: PdfInternals, order: LayerOrder): void {
  const all = order.flat(Infinity as 1) as PdfRef[]
  if (!all.length) return
  document._root.data.OCProperties = {
    OCGs: all,
    D: { Name: new String('Layers'), Order: order, ON: all, ListMode: 'AllPages' },
  }
}
