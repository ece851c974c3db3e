import { chromium, type Page } from '@playwright/test';
import { answers, start, stop } from '../scripts/children.mjs';
import { ensureBuild } from '../scripts/machine.mjs';
import { freePort } from '../scripts/postgres.mjs';

/** The real application on the bench's database, in Chromium, somebody signed in. */
export async function inApplication(work: (page: Page, origin: string) => Promise<void>): Promise<void> {
  await ensureBuild();
  const port = await freePort();
  const origin = `http://127.0.0.1:${port}`;
  const app = start('bench-app', process.execPath, ['scripts/serve.mjs'], {
    ...process.env,
    NODE_ENV: 'production',
    DATABASE_URL: process.env.BENCH_URL!,
    PORT: String(port),
    PUBLIC_ORIGIN: origin,
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
  });
  try {
    await answers(`${origin}/api/health`, app);
    const page = await browser.newPage();
    await page.goto(`${origin}/sign-in`);
    await page.getByLabel('Name').fill('bench');
    await page.getByLabel('Password').fill('long enough for it');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByRole('heading', { name: 'Round' }).waitFor();
    await work(page, origin);
  } finally {
    await browser.close();
    await stop(app);
  }
}
