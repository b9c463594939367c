import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './scripts/find-chromium.mjs';

/** Journeys run in so many lines, each against a server of its own: on the port after that of the line before. */
const lines = Number(process.env['E2E_LINES'] ?? 1);
const port = Number(process.env['E2E_PORT'] ?? 4299) + Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);

export default defineConfig({
  testDir: 'tests/e2e',
  testIgnore: process.env['E2E_IGNORE'] === undefined ? [] : [`**/${process.env['E2E_IGNORE']}.spec.ts`],
  // What is waited for comes within moments; on a machine that others share it may take many times as long.
  timeout: 240_000,
  expect: { timeout: 45_000 },
  workers: lines,
  // On a crowded machine a journey may meet a moment that no person meets: it has a second try, and the summary names it.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: process.env['E2E_RESULTS'] ?? 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // Moves between views take no time: what is clicked next is where it is looked for.
    contextOptions: { reducedMotion: 'reduce' },
    screenshot: 'only-on-failure',
    trace: 'off',
    launchOptions: {
      executablePath: CHROMIUM,
      args: [
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--ignore-gpu-blocklist',
        '--disable-dev-shm-usage',
        // Without a graphics card, pages are put together faster by the processor; and pages that live for seconds are not worth
        // compiling anything for twice.
        '--disable-gpu-compositing',
        '--js-flags=--liftoff-only --wasm-lazy-validation',
      ],
      chromiumSandbox: false,
    },
  },
});
