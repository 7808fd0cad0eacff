import { defineConfig } from '@playwright/test'

const port = 4391

const browser = (...more: string[]) => ({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
    '--disable-background-networking',
    '--no-first-run',
    ...more,
  ],
})

/** Tests that look at pixels of the yard; the others go without, since drawing in software is a third of their time. */
const LOOKED_AT = /(access|bend|gate|offline)\.spec\.ts/

export default defineConfig({
  testDir: 'e2e',
  // A machine of two cores that is busy with something else takes many times as long as one that is not.
  timeout: 480_000,
  expect: { timeout: 60_000 },
  // Drawing in software leaves each test waiting much of its time; two cores take two.
  workers: 2,
  fullyParallel: true,
  retries: process.env['CI'] ? 1 : 0,
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    // Each test begins with an empty browser; only the tests of it keep the application for offline.
    serviceWorkers: 'block',
    viewport: { width: 1280, height: 800 },
    deviceScaleFactor: 0.5,
    // Recording costs each test a good part of its time: only what failed once is recorded.
    trace: 'on-first-retry',
  },
  projects: [
    {
      name: 'worked',
      testIgnore: LOOKED_AT,
      use: { launchOptions: browser('--disable-gl-drawing-for-tests') },
    },
    { name: 'looked-at', testMatch: LOOKED_AT, use: { launchOptions: browser() } },
  ],
  webServer: {
    command: 'node server/serve.mjs',
    env: { PORT: String(port) },
    url: `http://127.0.0.1:${port}/`,
    reuseExistingServer: false,
    timeout: 60_000,
  },
})
