export function buildInPieces(entryPoint: string, outdir: string): Promise<void>
export function buildTaskProcess(): Promise<void>
export function buildCli(): Promise<void>
