import { roles, type Role } from '@/contract/permission';
import { newId } from '@/server/id';
import { archiveSensor, type TestBench } from '@/test/bench';
import { type Connected } from '@/test/onBench';
import { call, onRoutes } from '@/test/onRoutes';
import { newInstrument } from '@/test/instrument';
import { onePixel } from '@/test/picture';
import { benchRoutes } from '@/test/benchRoutes';
import { busRoutes } from '@/test/busRoutes';
import { catalogue, planOf } from '@/test/plan';
import { recordRoutes, type RouteRow } from '@/test/recordRoutes';
import { watchRoutes } from '@/test/watchRoutes';
import { waterRoutes } from '@/test/waterRoutes';
import { everyRoute } from '@/test/routeFiles';

let bench: TestBench;
let ids: Connected;

onRoutes((made) => ({ bench, ids } = made));

const everyone: readonly Role[] = roles;
const measuring: readonly Role[] = ['technician', 'administrator'];
const noting: readonly Role[] = ['technician', 'reviewer', 'administrator'];
const S = 'v1/stations/[stationId]';
const now = () => new Date().toISOString();
const settings = {
  description: 'x',
  enabled: true,
  quantity: 'airTemperature',
  unit: '°C',
  measurementInterval: 60,
  storageInterval: 600,
  adjustIn: 'device',
};

const codeOf = () => `ATTIC-${newId().slice(-8).toUpperCase()}`;

/** Every handler: who may use it, and a body that passes its schema. */
const table: RouteRow[] = [
  ...['health', 'health/alive', 'health/ready'].map((path): RouteRow => ({
    method: 'GET',
    path,
    may: 'anyone',
    succeeds: true,
  })),
  {
    method: 'POST',
    path: 'v1/session',
    may: 'anyone',
    body: () => ({ name: 'technician', password: 'long enough for tests' }),
    succeeds: true,
  },
  { method: 'DELETE', path: 'v1/session', may: 'anyone', body: () => ({}), succeeds: true },
  { method: 'GET', path: 'v1/round', may: everyone, succeeds: true },
  // Each of them is judged by its own right.
  { method: 'POST', path: 'v1/field-writes', may: everyone, succeeds: true, body: () => ({ writes: [] }) },
  { method: 'GET', path: 'v1/clock-strip', may: everyone, succeeds: true },
  { method: 'GET', path: 'v1/kit', may: everyone, succeeds: true },
  {
    method: 'POST',
    path: 'v1/kit',
    may: measuring,
    succeeds: true,
    body: newInstrument,
  },
  {
    method: 'POST',
    path: 'v1/stations',
    may: measuring,
    succeeds: true,
    body: () => ({ site: { name: 'Lantern Archive', zone: 'Etc/UTC' }, code: codeOf(), name: 'Attic' }),
  },
  {
    method: 'PUT',
    path: S,
    may: measuring,
    // The made-up site is refused.
    body: () => ({ code: 'ARCH-1', name: 'Lantern room', siteId: newId(), cautions: [] }),
  },
  {
    method: 'POST',
    path: `${S}/retire`,
    may: measuring,
    succeeds: true,
    body: () => ({ retired: false, reason: 'in use' }),
  },
  {
    method: 'PUT',
    path: 'v1/sites/[siteId]',
    may: measuring,
    params: () => ({ siteId: newId() }),
    body: () => ({ name: 'a', zone: 'Etc/UTC', note: '', latitude: null, longitude: null, cautions: [] }),
  },
  {
    method: 'PUT',
    path: `${S}/logger`,
    may: measuring,
    succeeds: true,
    body: () => ({ profileCode: 'brannoch-b4' }),
  },
  {
    method: 'PUT',
    path: `${S}/lines`,
    may: measuring,
    // Nothing that may be dialled.
    body: () => ({ address: '203.0.113.9:80', supplyVoltage: 12, ports: [] }),
  },
  { method: 'GET', path: 'v1/handheld-readings', may: everyone, succeeds: true },
  {
    method: 'POST',
    path: 'v1/handheld-readings',
    may: measuring,
    succeeds: true,
    body: () => ({
      listId: newId(),
      fileName: 'list.csv',
      instrumentId: null,
      readings: [
        { readingId: newId(), at: now(), quantity: 'airTemperature', entered: 16, unit: '°C', label: '' },
      ],
    }),
  },
  {
    method: 'POST',
    path: `${S}/handheld-readings`,
    may: measuring,
    body: () => ({ assignmentId: newId(), readingIds: [newId()], channelId: null, occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/handheld-readings/[readingId]/take-back`,
    may: measuring,
    params: () => ({ readingId: newId() }),
    body: () => ({ reason: 'another place' }),
  },
  { method: 'GET', path: `${S}/hand-over`, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/visits/[visitId]`, may: everyone },
  { method: 'GET', path: `${S}/visits/[visitId]/page.json`, may: everyone },
  { method: 'GET', path: `${S}/visits/[visitId]/page.csv`, may: everyone },
  {
    method: 'POST',
    path: `${S}/visits/[visitId]/sign`,
    may: noting,
    body: () => ({ sha256: 'a'.repeat(64), occurredAt: now() }),
  },
  { method: 'GET', path: `${S}/visit`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/checklist`,
    may: measuring,
    succeeds: true,
    body: () => ({ lineId: newId(), kind: 'to-do', says: 'Look at the gland', occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/checklist/ticks`,
    may: measuring,
    succeeds: true,
    body: () => ({
      tickId: newId(),
      item: newId(),
      says: 'Look at the gland',
      done: true,
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/arrivals`,
    may: measuring,
    succeeds: true,
    body: () => ({ arrivalId: newId(), others: '', acknowledged: [], occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/departures`,
    may: measuring,
    // Where a row before left something open it has to be said why.
    body: () => ({ departureId: newId(), leftOpen: [], away: false, occurredAt: now() }),
  },
  { method: 'GET', path: `${S}/basics`, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/plan`, may: everyone, succeeds: true },
  {
    method: 'PUT',
    path: `${S}/plan`,
    may: measuring,
    // Begun from a revision that is not the newest.
    body: () => ({ basedOn: 99, plan: planOf('brannoch-b4', []) }),
  },
  {
    method: 'POST',
    path: `${S}/plan/install`,
    may: measuring,
    body: () => ({
      deviceId: newId(),
      revision: 99,
      serial: 'x',
      landed: [],
      mounted: [],
      deviation: '',
      occurredAt: now(),
    }),
  },
  { method: 'GET', path: `${S}/photographs`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/photographs`,
    may: measuring,
    succeeds: true,
    body: () => ({
      photographId: newId(),
      occasion: 'before',
      note: '',
      occurredAt: now(),
      planRevision: null,
      position: null,
      picture: onePixel,
    }),
  },
  {
    method: 'GET',
    path: `${S}/photographs/[photographId]`,
    may: everyone,
    params: () => ({ photographId: newId() }),
  },
  {
    method: 'POST',
    path: `${S}/photographs/[photographId]/take-back`,
    may: measuring,
    params: () => ({ photographId: newId() }),
    body: () => ({ reason: 'blurred' }),
  },
  { method: 'GET', path: 'v1/profiles', may: everyone, succeeds: true },
  {
    method: 'GET',
    path: 'v1/profiles/[code]',
    may: everyone,
    succeeds: true,
    params: () => ({ code: 'ness-p4' }),
  },
  {
    method: 'POST',
    path: 'v1/profiles',
    may: measuring,
    succeeds: true,
    body: () => ({ profile: catalogue.get('ness-p4 1') }),
  },
  { method: 'GET', path: 'v1/field-book', may: everyone, succeeds: true },
  {
    method: 'POST',
    path: 'v1/field-book',
    may: noting,
    succeeds: true,
    body: () => ({ lineId: newId(), stationId: bench.stationId, text: 'a word', occurredAt: now() }),
  },
  {
    method: 'GET',
    path: 'v1/operations/[operationId]',
    may: everyone,
    params: () => ({ operationId: newId() }),
  },
  {
    method: 'POST',
    path: 'v1/operations/[operationId]/cancel',
    may: measuring,
    params: () => ({ operationId: newId() }),
  },
  { method: 'GET', path: 'v1/people', may: ['administrator'], succeeds: true },
  {
    method: 'POST',
    path: 'v1/people',
    may: ['administrator'],
    succeeds: true,
    body: () => ({ personId: newId(), name: `tern${counter++}`, initials: 'TN', role: 'viewer' }),
  },
  {
    method: 'PUT',
    path: 'v1/people/[personId]',
    may: ['administrator'],
    params: () => ({ personId: newId() }),
    body: () => ({ role: 'viewer', disabled: false }),
  },
  ...['link', 'sign-out'].map((what): RouteRow => ({
    method: 'POST',
    path: `v1/people/[personId]/${what}`,
    may: ['administrator'],
    params: () => ({ personId: newId() }),
    body: () => ({}),
  })),
  { method: 'GET', path: 'v1/account/sessions', may: everyone, succeeds: true },
  {
    method: 'DELETE',
    path: 'v1/account/sessions',
    may: everyone,
    succeeds: true,
    body: () => ({ sessionId: newId() }),
  },
  {
    method: 'POST',
    path: 'v1/account/password',
    may: everyone,
    body: () => ({ current: 'not this one', password: 'long enough for it' }),
  },
  {
    method: 'POST',
    path: 'v1/password-link',
    may: 'anyone',
    body: () => ({ token: 'made up' }),
    refused: 410,
  },
  {
    method: 'POST',
    path: 'v1/setup',
    may: 'anyone',
    body: () => ({ code: 'made up', name: 'tern', initials: 'TN', password: 'long enough for it' }),
    refused: 410,
  },
  { method: 'GET', path: S, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/connect`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/transmitters`,
    may: measuring,
    succeeds: true,
    body: () => ({
      installationId: newId(),
      portId: bench.portId,
      ...archiveSensor,
      serial: newId(),
      busId: 10 + counter++,
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/talk`,
    may: measuring,
    succeeds: true,
    body: () => ({ actionId: newId(), installationId: ids.installationId }),
  },
  {
    method: 'PUT',
    path: `${S}/channels/[channelId]/staged-settings`,
    may: measuring,
    body: () => ({ revisionId: newId(), basedOn: 0, settings }),
  },
  { method: 'DELETE', path: `${S}/channels/[channelId]/staged-settings`, may: measuring, succeeds: true },
  {
    method: 'POST',
    path: `${S}/channels/[channelId]/write-settings`,
    may: measuring,
    body: () => ({ actionId: newId(), revisionId: newId() }),
  },
  { method: 'GET', path: `${S}/channels/[channelId]/trace`, may: everyone, succeeds: true },
  { method: 'GET', path: `${S}/channels/[channelId]/trace.csv`, may: everyone, succeeds: true },
  {
    method: 'POST',
    path: `${S}/actions/[actionId]/settle`,
    may: measuring,
    params: () => ({ actionId: newId() }),
  },
  {
    method: 'POST',
    path: `${S}/installations/[installationId]/off-line`,
    may: measuring,
    body: () => ({ reason: 'leads off', occurredAt: now() }),
  },
  {
    method: 'DELETE',
    path: `${S}/installations/[installationId]/off-line`,
    may: measuring,
    body: () => ({ occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/installations/[installationId]/take-out`,
    may: measuring,
    params: () => ({ installationId: newId() }),
    body: () => ({ reason: 'sent for calibration', occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/installations/[installationId]/swap`,
    may: measuring,
    params: () => ({ installationId: newId() }),
    body: () => ({
      installationId: newId(),
      ...archiveSensor,
      zoneName: undefined,
      serial: 'TH3-9001',
      reason: 'worn',
      occurredAt: now(),
    }),
  },
  { method: 'GET', path: `${S}/checks`, may: everyone, succeeds: true },
  {
    method: 'GET',
    path: `${S}/channels/[channelId]/checks`,
    may: everyone,
    succeeds: true,
    params: () => ({ channelId: ids.temperature }),
  },
  {
    method: 'POST',
    path: `${S}/checks`,
    may: measuring,
    body: () => ({
      checkId: newId(),
      channelId: ids.temperature,
      procedure: 'side-by-side',
      instrumentId: bench.instrumentId,
      standardIds: [],
      zoneName: 'Lantern room',
      repeats: 3,
      school: 'sum',
      settleWindow: 60,
      occurredAt: now(),
    }),
  },
  { method: 'GET', path: `${S}/checks/[checkId]`, may: everyone, params: () => ({ checkId: newId() }) },
  { method: 'GET', path: `${S}/checks/[checkId]/live`, may: measuring, params: () => ({ checkId: newId() }) },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({
      readingId: newId(),
      reference: { value: 16, unit: '°C' },
      watched: [],
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings/[readingId]/exclude`,
    may: measuring,
    params: () => ({ checkId: newId(), readingId: newId() }),
    body: () => ({ reason: 'because' }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings/[readingId]/observations`,
    may: measuring,
    params: () => ({ checkId: newId(), readingId: newId() }),
    body: () => ({
      observationId: newId(),
      role: 'reference',
      entered: { value: 16, unit: '%' },
      occurredAt: now(),
    }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/readings/[readingId]/observations/[observationId]/exclude`,
    may: measuring,
    params: () => ({ checkId: newId(), readingId: newId(), observationId: newId() }),
    body: () => ({ reason: 'because' }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/adjustments`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({ actionId: newId(), adjustmentId: newId(), by: 1, mode: 'added', occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/undo`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({ actionId: newId(), adjustmentId: newId(), undoes: newId(), occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/checks/[checkId]/close`,
    may: measuring,
    params: () => ({ checkId: newId() }),
    body: () => ({ abandon: false, occurredAt: now() }),
  },
  {
    method: 'POST',
    path: `${S}/settings/stage-interval`,
    may: measuring,
    succeeds: true,
    body: () => ({ storageInterval: 600 }),
  },
  {
    method: 'POST',
    path: `${S}/settings/stage-proposed`,
    may: measuring,
    succeeds: true,
    body: () => ({ storageInterval: 600 }),
  },
  {
    method: 'POST',
    path: `${S}/settings/write-all`,
    may: measuring,
    body: () => ({ operationId: newId(), keep: true }),
  },
  { method: 'POST', path: `${S}/collect`, may: measuring, body: () => ({ operationId: newId() }) },
  ...benchRoutes,
  ...busRoutes,
  ...watchRoutes,
  ...recordRoutes,
  ...waterRoutes,
];
let counter = 0;
const paramsOf = (row: (typeof table)[number]) => ({
  stationId: bench.stationId,
  channelId: ids.temperature,
  installationId: ids.installationId,
  ...row.params?.(),
});

test('the table knows every handler there is', () =>
  expect(table.map((r) => `${r.method} ${r.path}`).sort()).toEqual(everyRoute()));

describe.each(table.map((r) => [`${r.method} ${r.path}`, r] as const))('%s', (_, row) => {
  const body = () => (row.method === 'GET' ? undefined : (row.body?.() ?? {}));
  test('signed out', async () => {
    const response = await call({
      ...row,
      query: row.query?.(),
      params: paramsOf(row),
      body: body(),
      role: null,
    });
    if (row.may === 'anyone')
      expect(response.status).toBe(row.refused ?? (response.status < 400 ? response.status : 200));
    else {
      expect(response.status).toBe(401);
      expect(await response.json()).toMatchObject({ code: 'signed-out' });
      expect(response.headers.get('content-type')).toBe('application/problem+json');
    }
  });
  if (row.may === 'anyone') return;
  test.each(roles)('as %s', async (role) => {
    const response = await call({ ...row, query: row.query?.(), params: paramsOf(row), body: body(), role });
    if (!row.may.includes(role)) {
      expect(response.status).toBe(403);
      expect(await response.json()).toMatchObject({ code: 'not-allowed' });
    } else if (row.succeeds) expect(response.status).toBeLessThan(300);
    // Not the role but the made-up id or the state stands in the way here.
    else expect([200, 201, 202, 404, 409, 422]).toContain(response.status);
  });
  if (row.method === 'GET') return;
  test('from a foreign origin, or none', async () => {
    for (const foreign of ['http://evil.test', 'null', '']) {
      const response = await call({
        ...row,
        query: row.query?.(),
        params: paramsOf(row),
        body: body(),
        role: 'administrator',
        headers: { origin: foreign },
      });
      expect(response.status).toBe(403);
      expect(await response.json()).toMatchObject({ code: 'foreign-origin' });
    }
  });
});
