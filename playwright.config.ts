import { defineConfig } from '@playwright/test';

/** The journey in Debian's headless Chromium, against the production build, PostgreSQL and the practice stand. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/globalSetup.ts',
  // One more than there are processors: journeys wait for readings to settle, for a server to come back.
  workers: 3,
  fullyParallel: false,
  // Patience costs nothing where things go well; a busy machine may take three times as long.
  timeout: 300_000,
  expect: { timeout: 25_000 },
  reporter: [['list']],
  forbidOnly: true,
  use: {
    // A journey that wants the shell asks for it: the others need not fetch it, and their pages may take their time.
    serviceWorkers: 'block',
    viewport: { width: 1280, height: 800 },
    // Menus and dialogs that glide cost a frame each; none of the journeys is about their gliding.
    contextOptions: { reducedMotion: 'reduce' },
    // What cannot be pressed or filled by then never will be: said at once rather than at the journey's limit.
    actionTimeout: 60_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
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
    trace: 'off',
  },
});
