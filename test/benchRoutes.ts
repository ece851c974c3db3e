import { noCare } from '@/core/kit/care';
import { roles, type Role } from '@/contract/permission';
import { ownTemplates } from '@/core/circuit/ownTemplates';
import { plainInput } from '@/core/circuit/pathInput';
import { measuredBeside } from '@/core/circuit/session';
import { newId } from '@/server/id';
import { plainMeter } from './faultSweep';
import type { RouteRow } from './recordRoutes';

const bench = 'v1/stations/[stationId]/bench';
const technicians: readonly Role[] = ['technician', 'administrator'];
const now = () => new Date().toISOString();

/** Rows of the role table for measuring with a meter. */
export const benchRoutes: readonly RouteRow[] = [
  { method: 'GET', path: 'v1/kit/methods', may: roles, succeeds: true },
  { method: 'GET', path: 'v1/kit/meters', may: roles, succeeds: true },
  {
    method: 'POST',
    path: 'v1/kit/meters',
    may: technicians,
    succeeds: true,
    body: () => ({
      meterId: newId(),
      name: 'Bag meter',
      model: 'Fetla D4',
      serial: `D4-${newId().slice(-8)}`,
      ranges: plainMeter,
      dueOn: null,
    }),
  },
  {
    method: 'GET',
    path: 'v1/kit/instruments/[instrumentId]',
    may: roles,
    params: () => ({ instrumentId: newId() }),
  },
  {
    method: 'GET',
    path: 'v1/kit/instruments/[instrumentId]/touched',
    may: roles,
    params: () => ({ instrumentId: newId() }),
  },
  {
    method: 'POST',
    path: 'v1/kit/instruments/[instrumentId]/findings',
    may: technicians,
    params: () => ({ instrumentId: newId() }),
    body: () => ({
      findingId: newId(),
      quantity: 'humidity',
      by: 1,
      goodUntil: now(),
      why: 'compared',
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: 'v1/kit/instruments/[instrumentId]/findings/[findingId]/take-back',
    may: technicians,
    params: () => ({ instrumentId: newId(), findingId: newId() }),
    body: () => ({ findingId: newId(), why: 'a slip' }),
  },
  {
    method: 'POST',
    path: 'v1/kit/instruments/[instrumentId]/calibrations',
    may: technicians,
    params: () => ({ instrumentId: newId() }),
    body: () => ({
      calibrationId: newId(),
      doneOn: '2026-01-01',
      dueOn: '2027-01-01',
      certificate: 'L 1',
      says: [],
    }),
  },
  {
    method: 'POST',
    path: 'v1/kit/instruments/[instrumentId]/care',
    may: technicians,
    params: () => ({ instrumentId: newId() }),
    body: () => ({ careId: newId(), basedOn: null, care: noCare }),
  },
  {
    method: 'POST',
    path: 'v1/kit/instruments/[instrumentId]/cross-checks',
    may: technicians,
    params: () => ({ instrumentId: newId() }),
    body: () => ({
      crossCheckId: newId(),
      otherId: newId(),
      quantity: 'humidity',
      pairs: [{ one: 50, other: 51 }],
      place: 'bath',
      occurredAt: now(),
    }),
  },
  { method: 'GET', path: 'v1/kit/standards', may: roles, succeeds: true },
  {
    method: 'POST',
    path: 'v1/kit/standards',
    may: technicians,
    succeeds: true,
    body: () => ({
      standardId: newId(),
      name: 'Phosphate',
      quantity: 'ph',
      lot: newId().slice(-8),
      values: [{ temperature: null, value: 6.86 }],
      tolerance: 0.02,
      openedOn: null,
      expiresOn: now(),
    }),
  },
  {
    method: 'POST',
    path: 'v1/kit/standards/[standardId]/retire',
    may: technicians,
    params: () => ({ standardId: newId() }),
    body: () => ({ reason: 'spilt' }),
  },
  { method: 'GET', path: 'v1/kit/circuits', may: roles, succeeds: true },
  {
    method: 'POST',
    path: 'v1/kit/circuits',
    may: technicians,
    succeeds: true,
    body: () => ({ circuitId: newId(), from: 0, circuit: ownTemplates[0], isAway: false }),
  },
  { method: 'GET', path: bench, may: roles, succeeds: true },
  {
    method: 'POST',
    path: bench,
    may: technicians,
    // Nothing that a meter judges hangs there.
    body: () => ({
      sessionId: newId(),
      installationId: newId(),
      channelId: newId(),
      meterId: newId(),
      input: plainInput,
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${bench}/[sessionId]/readings`,
    may: technicians,
    params: () => ({ sessionId: newId() }),
    body: () => ({
      readingId: newId(),
      measured: measuredBeside('dead-ac'),
      shows: 0,
      typed: '0.0',
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${bench}/[sessionId]/end`,
    may: technicians,
    params: () => ({ sessionId: newId() }),
    body: () => ({ outcome: 'undecided', note: '', occurredAt: now() }),
  },
];
