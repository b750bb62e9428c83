import PDFDocument from 'pdfkit'
import type { Scene } from '@/core/scene/scene'
import { mmToPoints, type FontBook } from '@/core/scene/text'
import { PageWriter, type PdfInternals } from './page'

export type PdfOptions = {
  fonts: FontBook
  fontBytes: (file: string) => Uint8Array
  /**
   * Written as the document's creation date; given from outside so that the same input gives the same file.
   */
  date: Date
}

/**
 * Writes scenes as the pages of one PDF 1.7 document: vector paths, real text in embedded subsets of its
 * fonts, one optional-content layer for each group that is marked as a layer, transparency groups for opacity
 * and blending.
 */
export function writePdf(scenes: Scene[], options: PdfOptions): Promise<Uint8Array> {
  const document = new PDFDocument({
    autoFirstPage: false,
    pdfVersion: '1.7',
    compress: true,
    displayTitle: true,
    info: {
      Title: scenes[0]?.title ?? '',
      Author: scenes[0]?.author ?? '',
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
      const internals = document as unknown as PdfInternals
      const layers: LayerOrder = []
      for (const scene of scenes) {
        document.addPage({ size: [mmToPoints(scene.widthMm), mmToPoints(scene.heightMm)], margin: 0 })
        layers.push(...new PageWriter(internals, scene, options).write())
      }
      declareLayers(internals, layers)
      document.end()
    } catch (error) {
      reject(error as Error)
    }
  })
}

/** A layer followed by an array of the layers inside it, as the optional-content order of PDF wants it. */
export type LayerOrder = (import('./page').PdfRef | LayerOrder)[]

function declareLayers(document: PdfInternals, order: LayerOrder): void {
  const all = order.flat(Infinity as 1) as import('./page').PdfRef[]
  if (!all.length) return
  document._root.data.OCProperties = {
    OCGs: all,
    D: { Name: new String('Layers'), Order: order, ON: all, ListMode: 'AllPages' },
  }
}
