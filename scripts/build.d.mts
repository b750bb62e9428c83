export function buildTaskProcess(): Promise<void>
export function buildCli(): Promise<void>
