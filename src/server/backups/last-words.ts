const shared = globalThis as typeof globalThis & { keenPlotBackupWords?: string | null }

/** Keeps why the last backup could not be made; null where it could. */
export function keepWords(words: string | null): void {
  shared.keenPlotBackupWords = words
}

export const lastWords = (): string | null => shared.keenPlotBackupWords ?? null
