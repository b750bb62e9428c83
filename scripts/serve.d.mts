export const serverEnvironment: Record<string, string>

import type { ChildProcess } from 'node:child_process'

export type Server = { url: string; child: ChildProcess; said: () => string; stop: () => Promise<void> }
export function startServer(dataFolder: string, environment?: Record<string, string>): Promise<Server>
