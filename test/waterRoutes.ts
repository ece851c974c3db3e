import { roles, type Role } from '@/contract/permission';
import { newId } from '@/server/id';
import { newCurve, newGauging, newRating, newSection } from './discharge';
import { newPoint, newReading, statedSurvey } from './water';
import type { RouteRow } from './recordRoutes';

const water = 'v1/stations/[stationId]/water';
const discharge = 'v1/stations/[stationId]/discharge';
const technicians: readonly Role[] = ['technician', 'administrator'];
const marking: readonly Role[] = ['technician', 'reviewer', 'administrator'];
const back = () => ({ reason: 'a slip of the pen' });

/** Rows of the role table for levels of water and for discharge. */
export const waterRoutes: readonly RouteRow[] = [
  { method: 'GET', path: discharge, may: roles, succeeds: true },
  {
    method: 'POST',
    path: `${discharge}/sections`,
    may: technicians,
    // A section that crosses itself is refused.
    body: () => ({ ...newSection(), points: [...newSection().points].reverse() }),
  },
  {
    method: 'POST',
    path: `${discharge}/gaugings`,
    may: technicians,
    body: () => newGauging({ meanwhile: null }),
  },
  { method: 'POST', path: `${discharge}/curves`, may: marking, body: () => newCurve({ basedOn: newId() }) },
  { method: 'POST', path: `${discharge}/ratings`, may: marking, body: () => newRating({ basedOn: newId() }) },
  ...(
    [
      ['section', technicians],
      ['gauging', technicians],
      ['curve', marking],
      ['rating', marking],
    ] as const
  ).map(([kind, may]): RouteRow => ({
    method: 'POST',
    path: `${discharge}/${kind}s/[${kind}Id]/take-back`,
    may,
    params: () => ({ [`${kind}Id`]: newId() }),
    body: back,
  })),
  { method: 'GET', path: water, may: roles, succeeds: true },
  {
    method: 'POST',
    path: `${water}/datum`,
    may: technicians,
    body: () => ({ datumId: newId(), basedOn: newId(), name: 'Bench zero', others: [] }),
  },
  {
    method: 'POST',
    path: `${water}/points`,
    may: technicians,
    succeeds: true,
    body: () => newPoint(newId().slice(-8), 'staff'),
  },
  {
    method: 'POST',
    path: `${water}/points/[pointId]/retire`,
    may: technicians,
    params: () => ({ pointId: newId() }),
    body: back,
  },
  {
    method: 'POST',
    path: `${water}/surveys`,
    may: technicians,
    body: () => statedSurvey({ [newId()]: 5 }, -20),
  },
  {
    method: 'POST',
    path: `${water}/surveys/[surveyId]/take-back`,
    may: technicians,
    params: () => ({ surveyId: newId() }),
    body: back,
  },
  {
    method: 'POST',
    path: `${water}/readings`,
    may: technicians,
    succeeds: true,
    body: () => newReading(null, { kind: 'sum', sum: '12.340 − 3.415' }, null, -20),
  },
  {
    method: 'POST',
    path: `${water}/readings/[readingId]/take-back`,
    may: technicians,
    params: () => ({ readingId: newId() }),
    body: back,
  },
  {
    method: 'POST',
    path: `${water}/revisions`,
    may: marking,
    body: () => ({
      revisions: [{ revisionId: newId(), readingId: newId(), adds: 0.012 }],
      because: 'assumed',
      surveyId: null,
      reason: 'as in spring',
    }),
  },
  {
    method: 'POST',
    path: `${water}/revisions/[revisionId]/take-back`,
    may: marking,
    params: () => ({ revisionId: newId() }),
    body: back,
  },
];
