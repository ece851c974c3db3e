import { roles, type Role } from '@/contract/permission';
import { newId } from '@/server/id';
import type { RouteRow } from './recordRoutes';
import { humid, newRule } from './watch';

const channel = 'v1/stations/[stationId]/channels/[channelId]/watch';
const technicians: readonly Role[] = ['technician', 'administrator'];
const noting: readonly Role[] = ['technician', 'reviewer', 'administrator'];
const span = 'from=2026-01-01T00:00:00Z&until=2026-01-02T00:00:00Z';
const inAnHour = () => new Date(Date.now() + 3_600_000).toISOString();

/** Rows of the role table for what is watched. */
export const watchRoutes: readonly RouteRow[] = [
  { method: 'GET', path: 'v1/watch', may: roles, succeeds: true },
  { method: 'GET', path: 'v1/watch/alarms', may: roles, succeeds: true },
  { method: 'GET', path: 'v1/watch/receivers', may: technicians, succeeds: true },
  {
    method: 'POST',
    path: 'v1/watch/receivers',
    may: ['administrator'],
    // No mail server is set here.
    body: () => ({
      receiverId: newId(),
      kind: 'mail',
      name: 'Duty',
      address: 'duty@skerrow.example',
      least: 1,
      afterSeconds: 0,
    }),
  },
  {
    method: 'POST',
    path: 'v1/watch/receivers/[receiverId]/retire',
    may: ['administrator'],
    params: () => ({ receiverId: newId() }),
    body: () => ({}),
  },
  { method: 'GET', path: channel, may: roles, succeeds: true },
  // A rule based on a made-up one is refused.
  { method: 'POST', path: `${channel}/rules`, may: technicians, body: () => newRule({ basedOn: newId() }) },
  { method: 'GET', path: `${channel}/record`, may: roles, succeeds: true, query: () => `?${span}` },
  {
    method: 'GET',
    path: `${channel}/rehearsal`,
    may: roles,
    succeeds: true,
    query: () =>
      `?${span}&asArrived=true&rule=${encodeURIComponent(JSON.stringify(humid({ limits: { farLow: null, low: null, high: 30, farHigh: null } })))}`,
  },
  {
    method: 'POST',
    path: `${channel}/shelf`,
    may: technicians,
    body: () => ({ shelfId: newId(), until: inAnHour(), reason: 'painting' }),
  },
  { method: 'POST', path: `${channel}/shelf/end`, may: technicians, body: () => ({}) },
  {
    method: 'POST',
    path: `${channel}/proof`,
    may: technicians,
    body: () => ({ proofId: newId(), tightened: null, told: 'duty desk', minutes: 30 }),
  },
  { method: 'POST', path: `${channel}/proof/restore`, may: technicians, body: () => ({}) },
  { method: 'POST', path: `${channel}/proof/received`, may: technicians, body: () => ({}) },
  {
    method: 'POST',
    path: `${channel}/proof/end`,
    may: technicians,
    body: () => ({ outcome: 'broken off', note: '' }),
  },
  {
    method: 'GET',
    path: 'v1/stations/[stationId]/alarms/[alarmId]',
    may: roles,
    params: () => ({ alarmId: newId() }),
  },
  {
    method: 'POST',
    path: 'v1/stations/[stationId]/alarms/[alarmId]/acknowledge',
    may: noting,
    params: () => ({ alarmId: newId() }),
    body: () => ({ reason: 'seen to' }),
  },
  {
    method: 'POST',
    path: 'v1/stations/[stationId]/schedule',
    may: technicians,
    body: () => ({ scheduleId: newId(), everySeconds: 600 }),
  },
];
