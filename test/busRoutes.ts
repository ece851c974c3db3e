import { roles, type Role } from '@/contract/permission';
import { newId } from '@/server/id';
import type { RouteRow } from './recordRoutes';

/** Rows of the role table for talking on a line, the settings of a whole logger, and launching one. Ids are made up: nobody holds a line, nobody looks for anything. */
const station = 'v1/stations/[stationId]';
const technicians: readonly Role[] = ['technician', 'administrator'];
const session = `${station}/line-sessions/[sessionId]`;
const search = `${station}/recoveries/[recoveryId]`;

const launch = `${station}/deployments/[deploymentId]`;

const post = (path: string, body: () => unknown): RouteRow => ({
  method: 'POST',
  path,
  may: technicians,
  params: () => ({ sessionId: newId(), recoveryId: newId(), deploymentId: newId() }),
  body,
});

export const busRoutes: readonly RouteRow[] = [
  // No stand is named here.
  { method: 'GET', path: 'v1/practice', may: ['administrator'] },
  {
    method: 'POST',
    path: 'v1/practice',
    may: ['administrator'],
    body: () => ({ serial: 'TH4-0311', fault: 'swapped' }),
  },
  { method: 'GET', path: `${station}/console`, may: roles, succeeds: true },
  { method: 'GET', path: search, may: roles, params: () => ({ recoveryId: newId() }) },
  post(`${station}/line-sessions`, () => ({
    sessionId: newId(),
    actionId: newId(),
    portId: newId(),
    master: 'held',
    outputsInHand: false,
    minutes: 10,
  })),
  post(`${session}/end`, () => ({ actionId: newId(), givenBack: true })),
  post(`${session}/read`, () => ({ actionId: newId(), unit: 1, fn: 3, address: 0, count: 1 })),
  post(`${session}/write`, () => ({ actionId: newId(), unit: 1, address: 0, values: [1] })),
  post(`${session}/change-id`, () => ({
    actionId: newId(),
    from: 1,
    to: 2,
    register: 40,
    storeRegister: null,
  })),
  post(`${session}/scan`, () => ({ operationId: newId(), from: 1, to: 5, timeOut: 60 })),
  post(`${station}/recoveries`, () => ({ recoveryId: newId(), installationId: newId() })),
  post(`${search}/steps`, () => ({ number: 1, done: { step: 'idle', volts: 0.3 } })),
  post(`${search}/work`, () => ({ operationId: newId(), number: 1, step: 'scan' })),
  post(`${search}/mend`, () => ({ actionId: newId(), number: 1 })),
  post(`${search}/end`, () => ({})),
  post(`${session}/change-part`, () => ({
    actionId: newId(),
    installationId: newId(),
    serial: 'CAP-7',
    coefficients: [1],
  })),
  post(`${session}/set-serial`, () => ({
    actionId: newId(),
    installationId: newId(),
    to: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
  })),
  // No chain, and no SDI-12 on this logger.
  post(`${station}/chain`, () => ({ actionId: newId(), port: 'Line 1' })),
  post(`${station}/sdi-12/say`, () => ({ actionId: newId(), terminal: '9 SD', command: '0I!' })),
  post(`${station}/sdi-12/measure`, () => ({
    actionId: newId(),
    terminal: '9 SD',
    address: '0',
    command: 'M',
    crc: false,
  })),
  post(`${station}/sdi-12/change-address`, () => ({
    actionId: newId(),
    terminal: '9 SD',
    from: '0',
    to: '1',
  })),
  post(`${station}/sdi-12/scan`, () => ({ operationId: newId(), terminal: '9 SD' })),
  {
    ...post(`${station}/direct`, () => ({
      lineId: newId(),
      occurredAt: new Date().toISOString(),
      kind: 'read',
      says: 'ID 1 answers',
      frames: [],
    })),
    succeeds: true,
  },
  post(`${station}/channels/[channelId]/live-test`, () => ({ operationId: newId(), tries: 1 })),
  post(`${station}/channels/[channelId]/wet-threshold`, () => ({
    revisionId: newId(),
    basedOn: 0,
    isDry: true,
    despite: '',
  })),
  {
    ...post(`${station}/settings/own`, () => ({
      revisionId: newId(),
      basedOn: 0,
      settings: { stationId: 'ARCH-1', name: 'Archive', activated: [] },
    })),
    method: 'PUT',
  },
  { ...post(`${station}/settings/own`, () => ({})), method: 'DELETE', succeeds: true },
  post(`${station}/settings/own/write`, () => ({ actionId: newId(), revisionId: newId() })),
  post(`${station}/settings/store`, () => ({ actionId: newId() })),
  { ...post(`${station}/settings/compare`, () => ({})), succeeds: true },
  { method: 'GET', path: `${station}/settings/template`, may: roles, succeeds: true },
  post(`${station}/settings/stage-template`, () => ({
    template: { format: 'outer-cairn-settings', version: 1, from: 'ARCH-2', channels: [] },
  })),
  post(`${station}/settings/stage-previous`, () => ({})),
  post(`${station}/logger/label`, () => ({
    labelId: newId(),
    registrationCode: 'RC-77-12',
    registeredAt: '',
    logIn: 'factory',
  })),
  // This logger is not one that is launched.
  { method: 'GET', path: `${station}/deployment`, may: roles, succeeds: true },
  { method: 'GET', path: `${station}/deployment/now`, may: technicians },
  {
    method: 'GET',
    path: `${launch}/read-out.csv`,
    may: roles,
    params: () => ({ deploymentId: newId() }),
  },
  post(`${station}/deployment/launch`, () => ({
    actionId: newId(),
    deploymentId: newId(),
    after: null,
    description: 'Far hag',
    start: 'now',
    startAt: null,
    whenFull: 'stops',
    storesBattery: false,
    discard: false,
  })),
  post(`${station}/deployment/stop`, () => ({ actionId: newId() })),
  post(`${launch}/stamps`, () => ({ stampId: newId(), what: 'hung', occurredAt: new Date().toISOString() })),
  {
    ...post(`${launch}/not-data`, () => ({
      which: 'bench',
      from: '2026-01-01T00:00Z',
      until: '2026-01-02T00:00Z',
      reason: 'bench',
    })),
    may: ['technician', 'reviewer', 'administrator'],
  },
];
