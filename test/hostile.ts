import { uniform } from './simulate';

/** One request as somebody might send it who means harm, or whose program is broken. */
export interface WildRequest {
  readonly method: string;
  /** Path with its query, percent-encoded as it goes over the wire. */
  readonly path: string;
  readonly body?: string | Buffer;
  readonly headers: Record<string, string>;
  /** A page is asked for as a browser does. */
  readonly page: boolean;
  /** The route it means, "v1/stations/[stationId]", and what stands at its places. */
  readonly route: string;
  readonly params: Record<string, string>;
}

/** Ids that exist, so that some requests come further than the first door. */
export interface Known {
  readonly stationId: string;
  readonly channelId: string;
  readonly installationId: string;
  readonly origin: string;
}

const texts = [
  '',
  ' ',
  'null',
  'undefined',
  'NaN',
  '-1',
  '0',
  '1e400',
  '99999999999999999999',
  '../../etc/passwd',
  '%00',
  'a%00b',
  '%E0%A4%A',
  '%FF%FE',
  '%C0%AF',
  '%F0%9F%AA%A8',
  "'; drop table reading; --",
  '%27%20or%201%3D1',
  '{{7*7}}',
  '<script>alert(1)</script>',
  '=cmd()',
  '-9999',
  'x'.repeat(300),
  'x'.repeat(3500),
  '2026-02-30',
  '2026-02-30T00:00:00Z',
  '+275760-09-13T00:00:00Z',
  '+999999-01-01T00:00:00Z',
  '-271821-04-20T00:00:00Z',
  '0000-00-00',
  '10000-01-01T00:00Z',
  '4714-11-24 BC',
  '00000000-0000-0000-0000-000000000000',
  '01932c07-0000-7000-8000-000000000000',
  '01932C07-0000-7000-8000-00000000000G',
  '------------------------------------',
  'constructor',
  '__proto__',
  'toString',
  '١٢٣',
  'Ω≈ç√',
];

/** What a route does and what its body holds. All but signing out: it would end the session all come with. */
const span = ['from', 'until'];
export const hostileRoutes: readonly (readonly [
  methods: string,
  path: string,
  fields?: readonly string[],
])[] = [
  ['GET', 'health'],
  ['GET', 'health/alive'],
  ['GET', 'health/ready'],
  ['POST', 'session', ['name', 'password']],
  ['POST', 'password-link', ['token', 'password']],
  ['POST', 'setup', ['code', 'name', 'initials', 'password']],
  ['GET', 'round'],
  ['GET', 'verify'],
  ['GET POST', 'kit', ['instrumentId', 'name', 'model', 'serial', 'calibratedOn', 'dueOn', 'quantities']],
  ['GET POST', 'kit/meters', ['meterId', 'name', 'model', 'serial', 'ranges', 'dueOn']],
  [
    'GET POST',
    'kit/standards',
    ['standardId', 'name', 'quantity', 'lot', 'values', 'tolerance', 'openedOn', 'expiresOn'],
  ],
  ['POST', 'kit/standards/{standardId}/retire', ['reason']],
  ['GET', 'kit/methods'],
  ['GET', 'kit/instruments/{instrumentId}'],
  ['GET', 'kit/instruments/{instrumentId}/touched'],
  [
    'POST',
    'kit/instruments/{instrumentId}/findings',
    ['findingId', 'quantity', 'by', 'goodUntil', 'why', 'occurredAt'],
  ],
  [
    'POST',
    'kit/instruments/{instrumentId}/calibrations',
    ['calibrationId', 'doneOn', 'dueOn', 'certificate', 'says'],
  ],
  ['POST', 'kit/instruments/{instrumentId}/care', ['careId', 'basedOn', 'care']],
  [
    'POST',
    'kit/instruments/{instrumentId}/cross-checks',
    ['crossCheckId', 'otherId', 'quantity', 'pairs', 'place', 'occurredAt'],
  ],
  ['POST', 'kit/instruments/{instrumentId}/findings/{findingId}/take-back', ['findingId', 'why']],
  ['GET POST', 'kit/circuits', ['circuitId', 'from', 'circuit', 'isAway']],
  ['GET POST', 'people', ['personId', 'name', 'initials', 'role']],
  ['PUT', 'people/{personId}', ['role', 'disabled']],
  ['POST', 'people/{personId}/link', []],
  ['POST', 'people/{personId}/sign-out', []],
  ['GET DELETE', 'account/sessions', ['sessionId']],
  ['POST', 'account/password', ['current', 'password']],
  ['GET POST', 'field-book', ['lineId', 'stationId', 'text', 'occurredAt']],
  ['POST', 'field-writes', ['writes']],
  ['GET', 'clock-strip'],
  ['GET', 'operations/{operationId}'],
  ['POST', 'operations/{operationId}/cancel', []],
  ['POST', 'stations', ['site', 'code', 'name', 'cautions', 'logger', 'port']],
  ['GET PUT', 'stations/{stationId}', ['code', 'name', 'siteId', 'cautions']],
  // Without fields: what means harm does not close the station that other requests go to.
  ['POST', 'stations/{stationId}/retire', []],
  ['PUT', 'stations/{stationId}/logger', ['profileCode']],
  ['PUT', 'stations/{stationId}/lines', ['address', 'supplyVoltage', 'ports']],
  ['GET PUT', 'stations/{stationId}/plan', ['basedOn', 'plan']],
  [
    'POST',
    'stations/{stationId}/plan/install',
    ['deviceId', 'revision', 'serial', 'landed', 'mounted', 'deviation', 'occurredAt'],
  ],
  [
    'GET POST',
    'stations/{stationId}/photographs',
    ['photographId', 'occasion', 'note', 'occurredAt', 'planRevision', 'position', 'picture'],
  ],
  ['GET', 'stations/{stationId}/photographs/{photographId}'],
  ['POST', 'stations/{stationId}/photographs/{photographId}/take-back', ['reason']],
  ['PUT', 'sites/{siteId}', ['name', 'zone', 'note', 'latitude', 'longitude', 'cautions']],
  ['GET POST', 'profiles', ['profile']],
  ['GET', 'profiles/{code}'],
  ['GET', 'stations/{stationId}/connect'],
  [
    'POST',
    'stations/{stationId}/transmitters',
    [
      'installationId',
      'portId',
      'profileCode',
      'serial',
      'busId',
      'zoneName',
      'serialSettings',
      'cableLength',
      'cableResistance',
      'landedLeads',
      'occurredAt',
    ],
  ],
  ['POST', 'stations/{stationId}/collect', ['operationId']],
  ['POST', 'stations/{stationId}/settings/stage-proposed', ['storageInterval']],
  ['POST', 'stations/{stationId}/settings/write-all', ['operationId', 'keep']],
  ['PUT', 'stations/{stationId}/settings/own', ['revisionId', 'basedOn', 'settings']],
  ['DELETE', 'stations/{stationId}/settings/own', []],
  ['POST', 'stations/{stationId}/settings/own/write', ['actionId', 'revisionId']],
  ['POST', 'stations/{stationId}/settings/store', ['actionId']],
  [
    'GET POST',
    'stations/{stationId}/checks',
    [
      'checkId',
      'channelId',
      'procedure',
      'instrumentId',
      'standardIds',
      'zoneName',
      'repeats',
      'school',
      'settleWindow',
      'occurredAt',
    ],
  ],
  ['GET', 'stations/{stationId}/checks/{checkId}'],
  ['GET', 'stations/{stationId}/channels/{channelId}/checks'],
  ['GET', 'stations/{stationId}/checks/{checkId}/live'],
  ['POST', 'stations/{stationId}/checks/{checkId}/close', ['abandon', 'reason', 'occurredAt']],
  [
    'POST',
    'stations/{stationId}/checks/{checkId}/readings',
    ['readingId', 'point', 'reference', 'companions', 'watched', 'occurredAt'],
  ],
  [
    'POST',
    'stations/{stationId}/checks/{checkId}/readings/{readingId}/observations',
    ['observationId', 'role', 'entered', 'occurredAt'],
  ],
  [
    'POST',
    'stations/{stationId}/checks/{checkId}/readings/{readingId}/observations/{observationId}/exclude',
    ['reason'],
  ],
  ['POST', 'stations/{stationId}/checks/{checkId}/readings/{readingId}/exclude', ['reason']],
  [
    'POST',
    'stations/{stationId}/checks/{checkId}/adjustments',
    ['actionId', 'adjustmentId', 'by', 'mode', 'occurredAt'],
  ],
  [
    'POST',
    'stations/{stationId}/checks/{checkId}/undo',
    ['actionId', 'adjustmentId', 'undoes', 'occurredAt'],
  ],
  ['GET POST', 'stations/{stationId}/imports', ['importId', 'fileName', 'bytes', 'signature', 'plan']],
  ['GET', 'stations/{stationId}/imports/{importId}'],
  ['PUT', 'stations/{stationId}/imports/{importId}/file'],
  ['POST', 'stations/{stationId}/imports/{importId}/withdraw', ['operationId', 'back', 'reason']],
  ['GET', 'stations/{stationId}/imports/{importId}/issues.csv'],
  ['GET', 'stations/{stationId}/basics'],
  ['GET', 'stations/{stationId}/visit'],
  [
    'GET POST',
    'stations/{stationId}/bench',
    ['sessionId', 'installationId', 'channelId', 'meterId', 'input', 'occurredAt'],
  ],
  [
    'POST',
    'stations/{stationId}/bench/{sessionId}/readings',
    ['readingId', 'measured', 'shows', 'typed', 'occurredAt'],
  ],
  ['POST', 'stations/{stationId}/bench/{sessionId}/end', ['outcome', 'note', 'occurredAt']],
  ['GET', 'stations/{stationId}/discharge'],
  [
    'POST',
    'stations/{stationId}/discharge/sections',
    ['sectionId', 'points', 'uncertainty', 'holdsFrom', 'note'],
  ],
  ['POST', 'stations/{stationId}/discharge/sections/{sectionId}/take-back', ['reason']],
  [
    'POST',
    'stations/{stationId}/discharge/gaugings',
    ['gaugingId', 'sheet', 'begunAt', 'endedAt', 'meanwhile', 'velocityUncertainty', 'note'],
  ],
  ['POST', 'stations/{stationId}/discharge/gaugings/{gaugingId}/take-back', ['reason']],
  [
    'POST',
    'stations/{stationId}/discharge/curves',
    ['curveId', 'basedOn', 'forward', 'reverse', 'uncertainty', 'holdsFrom', 'note', 'lookedAgain'],
  ],
  ['POST', 'stations/{stationId}/discharge/curves/{curveId}/take-back', ['reason']],
  [
    'POST',
    'stations/{stationId}/discharge/ratings',
    ['ratingId', 'basedOn', 'segments', 'shift', 'holdsFrom', 'note'],
  ],
  ['POST', 'stations/{stationId}/discharge/ratings/{ratingId}/take-back', ['reason']],
  ['GET', 'watch'],
  ['GET', 'watch/alarms'],
  ['GET POST', 'watch/receivers', ['receiverId', 'kind', 'name', 'address', 'least', 'afterSeconds']],
  ['POST', 'watch/receivers/{receiverId}/retire', []],
  ['GET', 'stations/{stationId}/channels/{channelId}/watch'],
  [
    'POST',
    'stations/{stationId}/channels/{channelId}/watch/rules',
    ['ruleId', 'basedOn', 'rule', 'armed', 'note'],
  ],
  ['GET', 'stations/{stationId}/channels/{channelId}/watch/record'],
  ['GET', 'stations/{stationId}/channels/{channelId}/watch/rehearsal'],
  ['POST', 'stations/{stationId}/channels/{channelId}/watch/shelf', ['shelfId', 'until', 'reason']],
  ['POST', 'stations/{stationId}/channels/{channelId}/watch/shelf/end', []],
  [
    'POST',
    'stations/{stationId}/channels/{channelId}/watch/proof',
    ['proofId', 'tightened', 'told', 'minutes'],
  ],
  ['POST', 'stations/{stationId}/channels/{channelId}/watch/proof/restore', []],
  ['POST', 'stations/{stationId}/channels/{channelId}/watch/proof/received', []],
  ['POST', 'stations/{stationId}/channels/{channelId}/watch/proof/end', ['outcome', 'note']],
  ['GET', 'stations/{stationId}/alarms/{alarmId}'],
  ['POST', 'stations/{stationId}/alarms/{alarmId}/acknowledge', ['reason']],
  ['POST', 'stations/{stationId}/schedule', ['scheduleId', 'everySeconds']],
  ['GET', 'stations/{stationId}/water'],
  ['POST', 'stations/{stationId}/water/datum', ['datumId', 'basedOn', 'name', 'others']],
  ['POST', 'stations/{stationId}/water/points', ['pointId', 'code', 'name', 'kind', 'channelId']],
  ['POST', 'stations/{stationId}/water/points/{pointId}/retire', ['reason']],
  [
    'POST',
    'stations/{stationId}/water/surveys',
    ['surveyId', 'surveyedBy', 'note', 'sheet', 'stated', 'keptBecause', 'occurredAt'],
  ],
  ['POST', 'stations/{stationId}/water/surveys/{surveyId}/take-back', ['reason']],
  [
    'POST',
    'stations/{stationId}/water/readings',
    ['readingId', 'pointId', 'read', 'accuracy', 'surveyId', 'lookedAgain', 'occurredAt'],
  ],
  ['POST', 'stations/{stationId}/water/readings/{readingId}/take-back', ['reason']],
  ['POST', 'stations/{stationId}/water/revisions', ['revisions', 'because', 'surveyId', 'reason']],
  ['POST', 'stations/{stationId}/water/revisions/{revisionId}/take-back', ['reason']],
  ['GET', 'stations/{stationId}/hand-over'],
  ['GET POST', 'handheld-readings', ['listId', 'fileName', 'instrumentId', 'readings']],
  [
    'POST',
    'stations/{stationId}/handheld-readings',
    ['assignmentId', 'readingIds', 'channelId', 'occurredAt'],
  ],
  ['POST', 'stations/{stationId}/handheld-readings/{readingId}/take-back', ['reason']],
  ['GET', 'stations/{stationId}/visits/{visitId}'],
  ['GET', 'stations/{stationId}/visits/{visitId}/page.json'],
  ['GET', 'stations/{stationId}/visits/{visitId}/page.csv'],
  ['POST', 'stations/{stationId}/visits/{visitId}/sign', ['sha256', 'occurredAt']],
  ['POST', 'stations/{stationId}/arrivals', ['arrivalId', 'others', 'acknowledged', 'occurredAt']],
  ['POST', 'stations/{stationId}/departures', ['departureId', 'leftOpen', 'away', 'occurredAt']],
  ['POST', 'stations/{stationId}/checklist', ['lineId', 'kind', 'says', 'occurredAt']],
  ['POST', 'stations/{stationId}/checklist/ticks', ['tickId', 'item', 'says', 'done', 'occurredAt']],
  ['GET', 'stations/{stationId}/record'],
  ['GET', 'stations/{stationId}/live'],
  ['POST', 'stations/{stationId}/derived', ['channelId', 'formula', 'zoneName', 'inputs', 'parameters']],
  ['POST', 'stations/{stationId}/derived/reckon', ['operationId']],
  ['POST', 'stations/{stationId}/readings', ['readingsId', 'channel', 'unit', 'readings']],
  ['GET', 'small-traces'],
  ['GET', 'stations/{stationId}/channels/{channelId}/thresholds/learned'],
  ['GET', 'stations/{stationId}/channels/{channelId}/thresholds/preview'],
  ['GET', 'stations/{stationId}/clock'],
  ['POST', 'stations/{stationId}/clock/compare', []],
  ['POST', 'stations/{stationId}/clock/set', ['actionId']],
  ['POST', 'stations/{stationId}/clock/correct', []],
  ['POST', 'stations/{stationId}/clock/comparisons/{comparisonId}/take-back', ['reason']],
  ['GET POST', 'practice', ['serial', 'fault']],
  ['GET', 'stations/{stationId}/console'],
  [
    'POST',
    'stations/{stationId}/line-sessions',
    ['sessionId', 'actionId', 'portId', 'master', 'outputsInHand', 'minutes'],
  ],
  ['POST', 'stations/{stationId}/line-sessions/{sessionId}/end', ['actionId', 'givenBack']],
  [
    'POST',
    'stations/{stationId}/line-sessions/{sessionId}/read',
    ['actionId', 'unit', 'fn', 'address', 'count'],
  ],
  ['POST', 'stations/{stationId}/line-sessions/{sessionId}/write', ['actionId', 'unit', 'address', 'values']],
  [
    'POST',
    'stations/{stationId}/line-sessions/{sessionId}/change-id',
    ['actionId', 'from', 'to', 'register', 'storeRegister'],
  ],
  ['POST', 'stations/{stationId}/line-sessions/{sessionId}/scan', ['operationId', 'from', 'to', 'timeOut']],
  ['POST', 'stations/{stationId}/chain', ['actionId', 'port']],
  ['POST', 'stations/{stationId}/line-sessions/{sessionId}/set-serial', ['actionId', 'installationId', 'to']],
  [
    'POST',
    'stations/{stationId}/line-sessions/{sessionId}/change-part',
    ['actionId', 'installationId', 'serial', 'coefficients'],
  ],
  ['POST', 'stations/{stationId}/sdi-12/say', ['actionId', 'terminal', 'command']],
  ['POST', 'stations/{stationId}/sdi-12/measure', ['actionId', 'terminal', 'address', 'command', 'crc']],
  ['POST', 'stations/{stationId}/sdi-12/change-address', ['actionId', 'terminal', 'from', 'to']],
  ['POST', 'stations/{stationId}/sdi-12/scan', ['operationId', 'terminal']],
  ['POST', 'stations/{stationId}/direct', ['lineId', 'occurredAt', 'kind', 'says', 'frames']],
  ['POST', 'stations/{stationId}/channels/{channelId}/live-test', ['operationId', 'tries']],
  [
    'POST',
    'stations/{stationId}/channels/{channelId}/wet-threshold',
    ['revisionId', 'basedOn', 'isDry', 'despite'],
  ],
  ['POST', 'stations/{stationId}/settings/compare', []],
  ['GET', 'stations/{stationId}/settings/template'],
  ['POST', 'stations/{stationId}/settings/stage-template', ['template']],
  ['POST', 'stations/{stationId}/settings/stage-previous', []],
  ['POST', 'stations/{stationId}/logger/label', ['labelId', 'registrationCode', 'registeredAt', 'logIn']],
  ['POST', 'stations/{stationId}/settings/stage-interval', ['storageInterval']],
  ['GET', 'stations/{stationId}/deployment'],
  ['GET', 'stations/{stationId}/deployment/now'],
  [
    'POST',
    'stations/{stationId}/deployment/launch',
    [
      'actionId',
      'deploymentId',
      'after',
      'description',
      'start',
      'startAt',
      'whenFull',
      'storesBattery',
      'discard',
    ],
  ],
  ['POST', 'stations/{stationId}/deployment/stop', ['actionId']],
  ['POST', 'stations/{stationId}/deployments/{deploymentId}/stamps', ['stampId', 'what', 'occurredAt']],
  ['POST', 'stations/{stationId}/deployments/{deploymentId}/not-data', ['which', ...span, 'reason']],
  ['GET', 'stations/{stationId}/deployments/{deploymentId}/read-out.csv'],
  ['POST', 'stations/{stationId}/recoveries', ['recoveryId', 'installationId']],
  ['GET', 'stations/{stationId}/recoveries/{recoveryId}'],
  ['POST', 'stations/{stationId}/recoveries/{recoveryId}/steps', ['number', 'done']],
  ['POST', 'stations/{stationId}/recoveries/{recoveryId}/work', ['operationId', 'number', 'step']],
  ['POST', 'stations/{stationId}/recoveries/{recoveryId}/mend', ['actionId', 'number']],
  ['POST', 'stations/{stationId}/recoveries/{recoveryId}/end', []],
  ['POST', 'stations/{stationId}/talk', ['actionId', 'installationId']],
  ['POST', 'stations/{stationId}/actions/{actionId}/settle', []],
  ['POST DELETE', 'stations/{stationId}/installations/{installationId}/off-line', ['reason', 'occurredAt']],
  ['POST', 'stations/{stationId}/installations/{installationId}/take-out', ['reason', 'occurredAt']],
  [
    'POST',
    'stations/{stationId}/installations/{installationId}/swap',
    [
      'installationId',
      'profileCode',
      'serial',
      'busId',
      'serialSettings',
      'landedLeads',
      'reason',
      'occurredAt',
    ],
  ],
  ['GET', 'stations/{stationId}/channels/{channelId}/trace'],
  ['GET', 'stations/{stationId}/channels/{channelId}/trace.csv'],
  ['GET', 'stations/{stationId}/channels/{channelId}/trace.json'],
  ['GET', 'stations/{stationId}/channels/{channelId}/verify'],
  ['POST', 'stations/{stationId}/channels/{channelId}/marks', ['layerId', ...span, 'flag', 'reason']],
  [
    'POST',
    'stations/{stationId}/channels/{channelId}/corrections',
    ['layerId', ...span, 'shape', 'fromOffset', 'untilOffset', 'reason'],
  ],
  ['POST', 'stations/{stationId}/channels/{channelId}/approvals', ['layerId', ...span]],
  ['PUT', 'stations/{stationId}/channels/{channelId}/thresholds', ['settingId', 'thresholds']],
  ['PUT', 'stations/{stationId}/channels/{channelId}/twin', ['twinId', 'other', 'tolerance']],
  ['POST', 'stations/{stationId}/channels/{channelId}/quality', ['operationId']],
  ['POST', 'stations/{stationId}/channels/{channelId}/write-settings', ['actionId', 'revisionId']],
  [
    'PUT DELETE',
    'stations/{stationId}/channels/{channelId}/staged-settings',
    ['revisionId', 'basedOn', 'settings'],
  ],
  ['POST', 'stations/{stationId}/channels/{channelId}/layers/{layerId}/revoke', ['layerId', 'reason']],
];
const pages = [
  '/',
  '/verify',
  '/field-book',
  '/kit',
  '/account',
  '/take-along',
  '/kit/readings',
  '/away',
  '/stations/{stationId}',
  '/stations/{stationId}/connect',
  '/stations/{stationId}/connect/deploy',
  '/stations/{stationId}/import',
  '/stations/{stationId}/record',
  '/stations/{stationId}/visit',
  '/stations/{stationId}/water',
  '/stations/{stationId}/water/discharge',
  '/stations/{stationId}/water/points',
  '/stations/{stationId}/water/survey',
  '/stations/{stationId}/bench',
  '/stations/{stationId}/bench/{installationId}',
  '/stations/{stationId}/bench/{installationId}/sheet',
  '/kit/meters',
  '/kit/standards',
  '/kit/instruments/{instrumentId}',
  '/kit/calculator',
  '/kit/circuits',
  '/exercises',
  '/stations/{stationId}/bench/{installationId}/table',
  '/stations/{stationId}/visits/{visitId}',
  '/stations/{stationId}/hand-over',
  '/stations/{stationId}/check',
  '/stations/{stationId}/check/{checkId}',
  '/stations/{stationId}/trace/{channelId}',
];

const underApi = (template: string) => (template.startsWith('health') ? template : `v1/${template}`);
/** The route a request means, as its file is called. */
const routeOf = (template: string) => underApi(template).replace(/\{(\w+)\}/g, '[$1]');
/** Every method of every route that is sent to, "POST v1/kit". */
export const everyHostileRoute = (): string[] =>
  hostileRoutes
    .flatMap(([methods, template]) => methods.split(' ').map((m) => `${m} ${routeOf(template)}`))
    .sort();
const queryNames = [
  'from',
  'until',
  'pixels',
  'with',
  'page',
  'sort',
  'order',
  'text',
  'word',
  'quantity',
  'before',
  'station',
  'channel',
  'of',
  'test',
  'thresholds',
];

/** Hostile requests without end, the same for the same seed. `pageShare` of them ask for pages. */
export function* wildRequests(seed: number, known: Known, pageShare = 0): Generator<WildRequest> {
  const random = uniform(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const chance = (share: number) => random() < share;
  const id = () =>
    `01932c07-${(Math.floor(random() * 65536) + 65536).toString(16).slice(1)}-7000-8000-${String(Math.floor(random() * 1e12)).padStart(12, '0')}`;
  const wild = () => pick(texts);
  /** As it goes over the wire: what is percent-encoded wrongly stays wrong. */
  const wire = (text: string) =>
    text.includes('%') ? text.replace(/[^\x21-\x7e]/g, '') : encodeURIComponent(text);
  /** What stands at the places of a route, as it goes over the wire. */
  const placesOf = (template: string): Record<string, string> =>
    Object.fromEntries(
      [...template.matchAll(/\{(\w+)\}/g)].map(([, name]) => [
        name!,
        chance(0.35) ? wire(wild()) || '%20' : ((known as unknown as Record<string, string>)[name!] ?? id()),
      ]),
    );
  const value = (depth = 0): unknown => {
    const kind = random();
    if (kind < 0.3) return wild();
    if (kind < 0.5)
      return pick([0, -0, -1, 1e15, 1e308, 2 ** 53, 0.1 + 0.2, 2_147_483_648, null, true, false]);
    if (kind < 0.6) return id();
    if (kind < 0.7) return new Date(random() * 4e12).toISOString();
    if (depth > 2) return [];
    if (kind < 0.85) return Array.from({ length: Math.floor(random() * 5) }, () => value(depth + 1));
    return Object.fromEntries(
      Array.from({ length: 3 }, () => [pick(['kind', 'value', 'unit', 'columns', 'x']), value(depth + 1)]),
    );
  };
  /** What a field may really hold, so that most of a body passes and one thing in it is wild. */
  const sound = (field: string): unknown => {
    if (field === 'stationId' || field === 'channelId' || field === 'installationId') return known[field];
    if (field.endsWith('Id')) return id();
    if (field === 'from') return '2026-02-01T00:00:00Z';
    if (/until|At$|On$/.test(field))
      // Wild ones come besides: what stands here is for the most part as it should be.
      return chance(0.7) ? '2026-03-02T09:00:00Z' : pick(['2026-02-30T09:00:00Z', '1949-01-01T00:00Z']);
    return (
      (
        {
          flag: 3,
          shape: 'step',
          fromOffset: 1,
          untilOffset: 1,
          repeats: 3,
          procedure: 'side-by-side',
          standardIds: [],
          values: [{ temperature: null, value: 7 }],
          entered: { value: 7, unit: 'pH' },
          school: 'sum',
          settleWindow: 60,
          mode: 'added',
          by: 1,
          role: 'viewer',
          disabled: false,
          abandon: true,
          back: false,
          serial: `S-${Math.floor(random() * 1e9)}`,
          quantities: [{ quantity: 'humidity', tolerance: 1, resolution: 0.1, low: 0, high: 100 }],
          writes: [
            {
              key: id(),
              kind: pick(['note', 'offLineBegin', 'checkReading']),
              params: { stationId: pick([known.stationId, wild()]) },
              body: { lineId: id(), stationId: known.stationId, text: wild(), occurredAt: wild() },
              device: { at: '2026-03-02T09:00:00.000Z', ahead: 1 },
              person: id(),
            },
          ],
          ranges: [{ does: 'ohms', upTo: 200, count: 0.1, ofReading: 0.008, counts: 3, unit: 1 }],
          input: {
            tolerance: 0.001,
            leadTolerance: 0.2,
            wires: null,
            shunt: 100,
            volts: 12,
            excitation: 2.5,
          },
          measured: {
            kind: 'dead-ac',
            from: null,
            to: null,
            through: null,
            range: null,
            closed: null,
            u: null,
          },
          shows: 0,
          outcome: 'undecided',
          done: true,
          away: true,
          leftOpen: [],
          others: '',
          acknowledged: [],
          kind: 'to-do',
          isDry: true,
          keep: true,
          despite: '',
          coefficients: [1.5, 0.02, 0.01, -0.002],
          tolerance: 1,
          other: null,
          bytes: 10,
          basedOn: 0,
          watched: [],
          profileCode: 'quern-th3',
          busId: 7,
          serialSettings: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
          cableLength: 14,
          cableResistance: 84,
          landedLeads: ['brown', 'white'],
          reference: { value: 16, unit: '°C' },
        } as Record<string, unknown>
      )[field] ?? 'a word'
    );
  };
  const body = (fields: readonly string[]): string | Buffer => {
    const kind = random();
    if (kind < 0.03) return '['.repeat(10_000) + ']'.repeat(10_000);
    if (kind < 0.05) return `{"text":${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}}`;
    if (kind < 0.07) return Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x3a, 0x31, 0x7d]);
    if (kind < 0.09) return '{"text":"a\\u0000b","lineId":null}';
    if (kind < 0.1) return `{"text":"${'x'.repeat(600_000)}"}`;
    if (kind < 0.13)
      return pick(['', '{', '[]', 'null', '"text"', '1e999', '{"a":1e400}', '{"__proto__":{"x":1}}']);
    return JSON.stringify(
      Object.fromEntries(
        fields.filter(() => chance(0.97)).map((f) => [f, chance(0.85) ? sound(f) : value()]),
      ),
    );
  };
  for (;;) {
    const page = chance(pageShare);
    const query = chance(0.5)
      ? `?${Array.from({ length: 1 + Math.floor(random() * 3) }, () => `${pick(queryNames)}=${wire(wild())}`).join('&')}`
      : '';
    const [methods, template, fields = ['text']] = page
      ? (['GET', pick(pages)] as const)
      : pick(hostileRoutes);
    const places = placesOf(template);
    const filled = template.replace(/\{(\w+)\}/g, (_, name: string) => places[name]!);
    const path = `${page ? filled : `/api/${underApi(filled)}`}${query}`;
    const method = chance(0.03) && !page ? pick(['PATCH', 'PUT', 'DELETE']) : pick(methods.split(' '));
    const sends = method !== 'GET';
    yield {
      method,
      path,
      page,
      route: routeOf(template),
      params: places,
      ...(sends && { body: body(fields) }),
      headers: {
        accept: page ? 'text/html' : 'application/json',
        origin: chance(0.95) ? known.origin : pick(['null', 'http://evil.test']),
        ...(sends && {
          'content-type': 'application/json',
          'idempotency-key': chance(0.9) ? id() : 'nonsense',
        }),
        ...(chance(0.05) && { 'if-none-match': pick(['*', '"x"', 'W/"y"']) }),
      },
    };
  }
}
