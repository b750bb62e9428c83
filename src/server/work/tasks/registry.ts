/**
 * Everything that is carried out in a process of its own, one line each, loaded when it is asked for; its limits stand
 * in `limits.ts`.
 */
export const tasks = {
  importFile: async () => (await import('./import-file')).importFile,
  checkBorders: async () => (await import('./check-borders')).checkBorders,
  firstRows: async () => (await import('./first-rows')).firstRows,
  printSheet: async () => (await import('./print-sheet')).printSheet,
  exportDataset: async () => (await import('./export-dataset')).exportDataset,
  openFolioFile: async () => (await import('./folio-file')).openFolioFile,
  saveFolioFile: async () => (await import('./folio-file')).saveFolioFile,
  readDocument: async () => (await import('./read-document')).readDocument,
  checkSave: async () => (await import('./check-save')).checkSave,
  packEverything: async () => (await import('./everything')).packEverything,
  readEverything: async () => (await import('./everything')).readEverything,
  readTemplate: async () => (await import('./read-template')).readTemplate,
  readTemplates: async () => (await import('./kept-templates')).readTemplates,
  writeTemplate: async () => (await import('./kept-templates')).writeTemplate,
  readPicture: async () => (await import('./read-picture')).readPicture,
}

export type TaskName = keyof typeof tasks
type Task<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
export type TaskInput<N extends TaskName> = Parameters<Task<N>>[0]
export type TaskResult<N extends TaskName> = Awaited<ReturnType<Task<N>>>
