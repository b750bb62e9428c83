import type { Plugin } from 'esbuild'

export const listsOfPackages: Plugin
export function buildTaskProcess(): Promise<void>
export function buildCli(): Promise<void>
