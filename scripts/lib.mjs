import { spawnSync } from 'node:child_process'

export const step = (words) => console.log(`\n▸ ${words}`)

const environment = { ...process.env, NEXT_TELEMETRY_DISABLED: '1' }

/** Runs a command and shows what it prints; the script ends with it when it fails. */
export function run(command, args, extra = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', env: { ...environment, ...extra } })
  if (error) console.error(`${command} could not be started: ${error.message}`)
  if (status !== 0) process.exit(status ?? 1)
}

export const works = (command, args) => spawnSync(command, args, { stdio: 'ignore' }).status === 0
