import type { HandOver } from '@/contract/fieldBookPage';
import type { CheckStartView } from '@/contract/checkViews';
import type { StationBasics, StationSheet } from '@/contract/views';
import { smallTracesAddress } from '../shared/useSmallTraces';

/** What the views of a stop ask the application for. */
export const of = (stationId: string) => {
  const station = `/api/v1/stations/${stationId}`;
  return {
    basics: `${station}/basics`,
    sheet: station,
    visit: `${station}/visit`,
    handOver: `${station}/hand-over`,
    connect: `${station}/connect`,
    clock: `${station}/clock`,
    plan: `${station}/plan`,
    bench: `${station}/bench`,
    water: `${station}/water`,
    deployment: `${station}/deployment`,
    photographs: `${station}/photographs`,
    checks: `${station}/checks`,
    check: (checkId: string) => `${station}/checks/${checkId}`,
    page: (visitId: string) => `${station}/visits/${visitId}`,
    book: `/api/v1/field-book?station=${stationId}`,
  };
};

/** What belongs to no stop. */
export const kitAddress = '/api/v1/kit';
export const bookAddress = '/api/v1/field-book?';
export const metersAddress = '/api/v1/kit/meters';
export const circuitsAddress = '/api/v1/kit/circuits';
export const ofNoStop: readonly string[] = [
  kitAddress,
  metersAddress,
  circuitsAddress,
  bookAddress,
  '/api/v1/clock-strip',
];

/**
 * All addresses of a stop, by what was answered so far: which views it has, which checks are open, whose
 * traces are drawn small. Asked until nothing new comes.
 */
export function addressesOf(stationId: string, answers: ReadonlyMap<string, unknown>): string[] {
  const its = of(stationId);
  const basics = answers.get(its.basics) as StationBasics | undefined;
  const sheet = answers.get(its.sheet) as StationSheet | undefined;
  const handOver = answers.get(its.handOver) as HandOver | undefined;
  const checks = answers.get(its.checks) as CheckStartView | undefined;
  return [
    its.basics,
    its.sheet,
    its.visit,
    its.handOver,
    its.photographs,
    its.book,
    ...(basics?.bench ? [its.bench] : []),
    ...(basics?.water ? [its.water] : []),
    ...(handOver?.last ? [its.page(handOver.last.visitId)] : []),
    ...(basics?.logger ? [its.connect, its.clock, its.plan, its.deployment, its.checks] : []),
    ...(checks?.channels.flatMap((c) => (c.openCheckId ? [its.check(c.openCheckId)] : [])) ?? []),
    ...(sheet?.paths.length
      ? [smallTracesAddress(sheet.paths.map((p) => ({ stationId, channelId: p.channelId })))]
      : []),
  ];
}
