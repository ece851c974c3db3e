import { expect, type Cookie, type Locator, type Page } from '@playwright/test';
import type { LabOrder } from '@/simulator/lab';
import { v7 as newId } from 'uuid';

/** The stack of the worker that asks: what it is called, where its application and its stand are. */
export const stack = (): { kind: string; url: string; lab: string } =>
  (JSON.parse(process.env.E2E_STACKS!) as ReturnType<typeof stack>[])[
    Number(process.env.TEST_PARALLEL_INDEX)
  ]!;
export const url = () => stack().url;
/** Where the devices of its stand answer. */
export const standHost = () => new URL(stack().lab).hostname;

/** Turns a hidden screw on the practice stand. */
export async function lab(order: LabOrder): Promise<void> {
  const response = await fetch(`${stack().lab}/lab`, { method: 'POST', body: JSON.stringify(order) });
  if (!response.ok) throw new Error(await response.text());
}

/** What the browsers of this worker were given when somebody signed in, by name: asked for once, not at every test. */
const sessions = new Map<string, Cookie[]>();

export async function signIn(page: Page, name = 'technician'): Promise<void> {
  const given = sessions.get(name);
  if (given) {
    await page.context().addCookies(given);
    await page.goto(url());
  }
  // Whoever signed out meanwhile ended that session for all.
  if (!given || page.url().includes('/sign-in')) {
    await enter(page, url(), name, 'peat-and-lichen');
    await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible();
    sessions.set(name, await page.context().cookies());
  }
  await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible();
  await awake(page);
}

/** The first account of an empty installation, by the code its server shows; signed in as an administrator. */
export async function firstAdministrator(
  page: Page,
  empty: { url: string; welcome: string },
  password: string,
): Promise<void> {
  await page.goto(empty.welcome);
  await page.getByLabel('Name').fill('tern');
  await page.getByLabel('Initials').fill('TN');
  await typeTwice(page, password);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await expect(page.getByText('tern may do everything here')).toBeVisible();
  await enter(page, empty.url, 'tern', password);
  await expect(page.getByText('No station yet')).toBeVisible();
}

/** Signs in at an address; what comes then is for whoever asks. */
export async function enter(page: Page, at: string, name: string, secret: string): Promise<void> {
  await page.goto(`${at}/sign-in`);
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(secret);
  await page.getByRole('button', { name: 'Sign in' }).click();
}
export async function typeTwice(page: Page, secret: string): Promise<void> {
  await page.locator('input[name="password"]').fill(secret);
  await page.getByLabel('New password once more').fill(secret);
}

/** Picks an entry of the person's menu. A page as it was sent shows its button before it can be pressed. */
export async function fromMenu(page: Page, item: string): Promise<void> {
  await awake(page);
  await page.getByRole('button', { name: /, (viewer|technician|reviewer|administrator)$/ }).click();
  await page.getByRole('menuitem', { name: item }).click();
}

/** Signs out by the person's menu. */
export async function signOut(page: Page): Promise<void> {
  await fromMenu(page, 'Sign out');
  await expect(page).toHaveURL(/sign-in/);
}

/** Waits until the page's own script is at work: a click while it wakes is lost. The strip is loaded by it. */
export const awake = (page: Page): Promise<void> =>
  expect(page.getByRole('complementary', { name: 'Running now' })).toBeVisible();

/** Opens a page of a person who is signed in, and waits until it can be clicked. */
export async function visit(page: Page, path: string): Promise<void> {
  await page.goto(new URL(path, url()).href);
  await awake(page);
}

export const stationId = (page: Page, code: string): Promise<string> =>
  page.evaluate(async (wanted) => {
    const round = (await (await fetch('/api/v1/round')).json()) as {
      stops: { code: string; stationId: string }[];
    };
    return round.stops.find((s) => s.code === wanted)!.stationId;
  }, code);

/** Sends a write as the page would, by whoever is signed in there. */
export const post = (page: Page, path: string, body: object): Promise<void> =>
  page.evaluate(
    async ([to, key, json]) => {
      const response = await fetch(to, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': key },
        body: json,
      });
      if (!response.ok) throw new Error(await response.text());
    },
    [path, newId(), JSON.stringify(body)] as const,
  );

/** Picks an entry of one of the select fields. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  const entry = page.getByRole('option', { name: option });
  await expect(entry).toBeVisible();
  // On a busy machine the list may move under the pointer; a person presses again. While it closes, the page
  // behind it is hidden from whoever asks by role.
  await expect(async () => {
    if (await entry.isVisible()) await entry.click({ timeout: 2_000 });
    await expect(page.getByRole('listbox')).toHaveCount(0, { timeout: 3_000 });
  }).toPass();
}

/** Presses, counted: how much a task asks of whoever does it. */
export function counted(): { press: (what: Locator) => Promise<void>; presses: number } {
  const count = {
    presses: 0,
    async press(what: Locator) {
      await what.click();
      count.presses++;
    },
  };
  return count;
}

/** Opens a station's check page and begins a check of a channel; a short watch keeps the test short. */
export async function beginCheck(
  page: Page,
  code: string,
  channel: RegExp,
  zone: string,
  more: { instrument?: RegExp; reason?: string; watch?: number } = {},
): Promise<void> {
  await visit(page, `/stations/${await stationId(page, code)}/check`);
  await choose(page, 'Channel', channel);
  await choose(page, 'Zone you stand in', zone);
  if (more.instrument) await choose(page, 'Reference instrument', more.instrument);
  if (more.reason) await page.getByLabel('Why it is used all the same').fill(more.reason);
  await page.getByLabel('Watch for, s').fill(String(more.watch ?? 10));
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByLabel('Sensor now')).toBeVisible();
}

/**
 * Captures from the linked display once the sensor is said to be settled. As a technician would, takes
 * back a reading that caught it moving after all: on a busy machine live values may come late.
 */
export async function captureSettled(page: Page, label: RegExp): Promise<void> {
  const capture = page.getByRole('button', { name: label });
  const takeBack = page.getByRole('button', { name: /^Take back the reading/ });
  for (let attempt = 1; ; attempt++) {
    await expect(capture).toBeVisible();
    await expect(page.getByRole('status', { name: 'Settling' }).getByText('Settled')).toBeVisible({
      timeout: 40_000,
    });
    const before = await takeBack.count();
    await capture.click();
    await expect(takeBack).toHaveCount(before + 1);
    const captured = page.getByRole('row').filter({ has: takeBack }).last();
    if (attempt === 3 || (await captured.innerText()).includes('settled')) return;
    await takeBack.last().click();
    await expect(takeBack).toHaveCount(before);
  }
}
