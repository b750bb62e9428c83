const shared = globalThis as typeof globalThis & { keenPlotBackupFailure?: string | null }

/** Keeps why the last backup could not be made; null where it could. */
export function keepFailure(words: string | null): void {
  shared.keenPlotBackupFailure = words
}

export const lastFailure = (): string | null => shared.keenPlotBackupFailure ?? null
