import { chromium } from '@playwright/test';
import { build } from 'esbuild';
import { ms, percentile, printTable } from './table';

/** The plan check of 200 sensors on 20 ports in one pass, in Chromium; the aim is 16 ms. */
export async function benchPlan(): Promise<void> {
  const { outputFiles } = await build({
    entryPoints: ['benchmarks/planCheckInBrowser.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    minify: true,
    tsconfig: 'tsconfig.json',
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic'],
  });
  try {
    const page = await browser.newPage();
    await page.addScriptTag({ content: outputFiles[0]!.text });
    const found = await page.evaluate(() =>
      (
        globalThis as unknown as { runBench(): { check: number[]; copy: number[]; findings: number } }
      ).runBench(),
    );
    const [check, copy] = [percentile(found.check, 0.5), percentile(found.copy, 0.5)];
    printTable('Plan check, in Chromium', [
      {
        what: '200 sensors on 20 ports, all rules',
        value: `${ms(check)}, p95 ${ms(percentile(found.check, 0.95))}`,
        against: `copying the plan as JSON ${ms(copy)}`,
        ratio: (check / copy).toFixed(1),
        aim: '16 ms',
      },
      { what: 'findings', value: String(found.findings) },
    ]);
  } finally {
    await browser.close();
  }
}
