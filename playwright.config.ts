import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { defineConfig } from '@playwright/test'
import { serverEnvironment } from './scripts/serve.mjs'

const port = Number(process.env.KEEN_TEST_PORT ?? 3417)

/** Drives the built application as a cartographer would, with a data folder of its own. */
export default defineConfig({
  testDir: 'e2e',
  workers: 2,
  fullyParallel: true,
  // A machine that has other work to do takes three times as long as a quiet one.
  timeout: 180_000,
  expect: { timeout: 40_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      // People have scroll bars, 15 pixels wide; a browser under test hides them unless told otherwise.
      ignoreDefaultArgs: ['--hide-scrollbars'],
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: `node node_modules/next/dist/bin/next start --hostname 127.0.0.1 --port ${port}`,
    url: `http://localhost:${port}/`,
    env: {
      ...serverEnvironment,
      KEEN_PLOT_DATA: mkdtempSync(path.join(tmpdir(), 'keen-e2e-')),
      NEXT_TELEMETRY_DISABLED: '1',
    },
  },
})
