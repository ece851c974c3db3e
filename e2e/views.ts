import type { Page } from '@playwright/test';
import { stationId } from './steps';

/** Every view by its name, and where it is: what is held to be true of all of them runs through these. */
export async function views(page: Page): Promise<[string, string][]> {
  const archive = await stationId(page, 'ARCH-2');
  const { channels, recent } = await page.evaluate(
    async (id) =>
      (await (await fetch(`/api/v1/stations/${id}/checks`)).json()) as {
        channels: { id: string }[];
        recent: { id: string }[];
      },
    archive,
  );
  const lastVisit = await page.evaluate(
    async (id) =>
      (
        (await (await fetch(`/api/v1/field-book?station=${id}&kind=visit`)).json()) as { visitId: string }[]
      )[0]!.visitId,
    archive,
  );
  // A window that begins and ends on a tick, whatever the time of day.
  const midnight = (daysAgo: number) =>
    `${new Date(Date.now() - daysAgo * 86_400_000).toISOString().slice(0, 10)}T00:00:00Z`;
  return [
    ['Round', '/'],
    ['Station', `/stations/${archive}`],
    ['Connect', `/stations/${archive}/connect`],
    ['Record', `/stations/${archive}/record`],
    ['Import', `/stations/${archive}/import`],
    ['Verify', '/verify'],
    ['Watch', '/watch'],
    ['Watch, by station', '/watch?order=station&dense=1'],
    ['Alarms', '/watch/alarms'],
    ['Who is told', '/watch/receivers'],
    ['Watch a channel', await firstWatched(page)],
    ['Check, begin', `/stations/${archive}/check`],
    ['Check', `/stations/${archive}/check/${recent[0]!.id}`],
    ['Zone by zone', `/stations/${await stationId(page, 'ARCH-3')}/check/zones`],
    ['Trace', `/stations/${archive}/trace/${channels[1]!.id}?from=${midnight(7)}&until=${midnight(0)}`],
    ['Field book', '/field-book'],
    ['Kit', '/kit'],
    ['Readings of handhelds', '/kit/readings'],
    ['Own account', '/account'],
    ['Not sent yet', '/unsent'],
    ['Take along', '/take-along'],
    ['Visit', `/stations/${archive}/visit`],
    ['Hand-over', `/stations/${archive}/hand-over`],
    ['Page of the field book', `/stations/${archive}/visits/${lastVisit}`],
    ['Talk on the line', `/stations/${await stationId(page, 'KELP-3')}/connect/line`],
    ['Launch and read out', `/stations/${await stationId(page, 'HUT-3')}/connect/deploy`],
    ['Direct line', `/stations/${await stationId(page, 'KELP-3')}/connect/direct`],
    ['Water', `/stations/${await stationId(page, 'SLUICE-1')}/water`],
    ['Discharge', `/stations/${await stationId(page, 'SLUICE-1')}/water/discharge`],
    ['Rating by level', `/stations/${await stationId(page, 'MOSS-3')}/water/discharge`],
    ['Measuring points', `/stations/${await stationId(page, 'SLUICE-1')}/water/points`],
    ['Levelling sheet', `/stations/${await stationId(page, 'SLUICE-1')}/water/survey`],
    ['Bench', `/stations/${await stationId(page, 'MOSS-3')}/bench`],
    [
      'On the bench',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}`,
    ],
    [
      'Plan for the bag',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}/sheet`,
    ],
    [
      'Table for the bag',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}/table`,
    ],
    ['Exercises', '/exercises'],
    ['An exercise', '/exercises?n=10'],
    ['Quick sums', '/kit/calculator'],
    ['Meters', '/kit/meters'],
    ['Standards', '/kit/standards'],
    ['Methods and persons', '/kit/methods'],
    ['An instrument', `/kit/instruments/${await firstInstrument(page)}`],
    ['Circuits', '/kit/circuits'],
    ['Wiring plan', `/stations/${await stationId(page, 'HATCH-2')}/connect/plan`],
    ['Wiring sheet', `/stations/${await stationId(page, 'MOSS-3')}/connect/plan/sheet`],
    ['Sites and stations', '/set-up'],
    ['Catalogue', '/catalogue'],
  ];
}

/** The water meter, of which something was found. */
const firstInstrument = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const kit = (await (await fetch('/api/v1/kit')).json()) as { id: string; serial: string }[];
    return kit.find((i) => i.serial === 'WQ-090')!.id;
  });

/** The bench of the first rule on the board. */
const firstWatched = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const { channels } = (await (await fetch('/api/v1/watch')).json()) as {
      channels: { stationId: string; channelId: string }[];
    };
    return `/stations/${channels[0]!.stationId}/watch/${channels[0]!.channelId}`;
  });

/** The first sensor of a station that a meter judges. */
const onBench = async (page: Page, code: string): Promise<string> =>
  page.evaluate(
    async (id) => {
      const view = (await (await fetch(`/api/v1/stations/${id}/bench`)).json()) as {
        sensors: { installationId: string }[];
      };
      return view.sensors[0]!.installationId;
    },
    await stationId(page, code),
  );
