import { checkBorders } from './check-borders'
import { exportDataset } from './export-dataset'
import { firstRows } from './first-rows'
import { openFolioFile, saveFolioFile } from './folio-file'
import { importFile } from './import-file'
import { printSheet } from './print-sheet'
import { readPicture } from './read-picture'

/** Everything that is carried out in a process of its own, one line each; its limits stand in `limits.ts`. */
export const tasks = {
  importFile,
  checkBorders,
  firstRows,
  printSheet,
  exportDataset,
  openFolioFile,
  saveFolioFile,
  readPicture,
}

export type TaskName = keyof typeof tasks
export type TaskInput<N extends TaskName> = Parameters<(typeof tasks)[N]>[0]
export type TaskResult<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
