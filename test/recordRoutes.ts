import { roles, type Role } from '@/contract/permission';
import { defaultThresholds } from '@/core/quality/thresholds';
import { newId } from '@/server/id';
import { newTemperature, plainPlan } from './plainPlan';

/** Rows of the role table for what brings records in and signs them off. */
export interface RouteRow {
  method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  path: string;
  may: readonly Role[] | 'anyone';
  body?: () => unknown;
  /** With its question mark. */
  query?: () => string;
  params?: () => Record<string, string>;
  succeeds?: boolean;
  /** What a made-up secret is answered with. */
  refused?: number;
}

const station = 'v1/stations/[stationId]';
const channel = `${station}/channels/[channelId]`;
const technicians: readonly Role[] = ['technician', 'administrator'];
const marking: readonly Role[] = ['technician', 'reviewer', 'administrator'];
const approving: readonly Role[] = ['reviewer', 'administrator'];
const span = { from: '2026-01-01T00:00:00Z', until: '2026-01-02T00:00:00Z' };

export const recordRoutes: readonly RouteRow[] = [
  { method: 'GET', path: 'v1/verify', may: roles, succeeds: true },
  { method: 'GET', path: 'v1/small-traces', may: roles, succeeds: true },
  { method: 'GET', path: `${station}/record`, may: roles, succeeds: true },
  { method: 'GET', path: `${station}/live`, may: technicians, succeeds: true },
  {
    method: 'POST',
    path: `${station}/derived`,
    may: marking,
    // The made-up channel is refused.
    body: () => ({
      channelId: newId(),
      formula: 'levelAboveDatum',
      zoneName: 'Weir',
      inputs: { level: newId() },
      parameters: { zero: 1 },
    }),
  },
  {
    method: 'POST',
    path: `${station}/derived/reckon`,
    // That of the role before may still run.
    may: marking,
    body: () => ({ operationId: newId() }),
  },
  {
    method: 'POST',
    path: `${station}/readings`,
    may: technicians,
    succeeds: true,
    body: () => ({
      readingsId: newId(),
      channel: { kind: 'new', quantity: 'airTemperature', zoneName: `Loft ${newId().slice(-6)}` },
      unit: '°C',
      readings: [{ at: '2026-01-01T00:00:00Z', value: 12.3 }],
    }),
  },
  { method: 'GET', path: `${station}/imports`, may: roles, succeeds: true },
  {
    method: 'POST',
    path: `${station}/imports`,
    may: technicians,
    succeeds: true,
    body: () => ({
      importId: newId(),
      fileName: 'record.csv',
      bytes: 10,
      signature: 's',
      plan: plainPlan([newTemperature(1, 'Loft')]),
    }),
  },
  { method: 'GET', path: `${station}/imports/[importId]`, may: roles, params: () => ({ importId: newId() }) },
  {
    method: 'PUT',
    path: `${station}/imports/[importId]/file`,
    may: technicians,
    params: () => ({ importId: newId() }),
  },
  {
    method: 'GET',
    path: `${station}/imports/[importId]/issues.csv`,
    may: roles,
    params: () => ({ importId: newId() }),
  },
  {
    method: 'POST',
    path: `${station}/imports/[importId]/withdraw`,
    may: technicians,
    params: () => ({ importId: newId() }),
    body: () => ({ operationId: newId(), back: false, reason: 'wrong file' }),
  },
  {
    method: 'POST',
    path: `${station}/clock/comparisons/[comparisonId]/take-back`,
    may: technicians,
    params: () => ({ comparisonId: newId() }),
    body: () => ({ reason: 'our own clock was wrong' }),
  },
  { method: 'GET', path: `${station}/clock`, may: roles, succeeds: true },
  { method: 'POST', path: `${station}/clock/compare`, may: technicians, succeeds: true, body: () => ({}) },
  { method: 'POST', path: `${station}/clock/set`, may: technicians, body: () => ({ actionId: newId() }) },
  { method: 'POST', path: `${station}/clock/correct`, may: marking, body: () => ({}) },
  { method: 'GET', path: `${channel}/trace.json`, may: roles, succeeds: true },
  { method: 'GET', path: `${channel}/verify`, may: roles, succeeds: true },
  {
    method: 'POST',
    path: `${channel}/marks`,
    may: marking,
    body: () => ({ layerId: newId(), ...span, flag: 3, reason: 'looks odd' }),
  },
  {
    method: 'POST',
    path: `${channel}/corrections`,
    may: marking,
    body: () => ({
      layerId: newId(),
      ...span,
      shape: 'step',
      fromOffset: 1,
      untilOffset: 1,
      reason: 'because',
    }),
  },
  {
    method: 'POST',
    path: `${channel}/approvals`,
    may: approving,
    body: () => ({ layerId: newId(), ...span }),
  },
  {
    method: 'POST',
    path: `${channel}/layers/[layerId]/revoke`,
    may: marking,
    params: () => ({ layerId: newId() }),
    body: () => ({ layerId: newId(), reason: 'because' }),
  },
  {
    method: 'PUT',
    path: `${channel}/thresholds`,
    may: marking,
    succeeds: true,
    body: () => ({ settingId: newId(), thresholds: defaultThresholds('airTemperature') }),
  },
  {
    method: 'GET',
    path: `${channel}/thresholds/preview`,
    may: roles,
    succeeds: true,
    query: () =>
      `?${new URLSearchParams({ ...span, thresholds: JSON.stringify(defaultThresholds('airTemperature')) })}`,
  },
  // Nothing can be learned from an empty record: refused in words.
  { method: 'GET', path: `${channel}/thresholds/learned`, may: roles },
  { method: 'POST', path: `${channel}/quality`, may: marking, body: () => ({ operationId: newId() }) },
  {
    method: 'PUT',
    path: `${channel}/twin`,
    may: marking,
    succeeds: true,
    body: () => ({ twinId: newId(), other: null, tolerance: 1 }),
  },
];
