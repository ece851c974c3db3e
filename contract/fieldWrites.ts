import type Joi from 'joi';
import { readText } from '@/core/water/readText';
import { id, finite } from '@/schema/pieces';
import { anything, listOf, mapOf, must, oneOf, shape, text } from '@/schema/shape';
import type { DeviceTime } from './deviceClock';
import {
  addToChecklist,
  arrive,
  checklistWords,
  leave,
  tickChecklist,
  type AddToChecklist,
  type Arrive,
  type Leave,
  type TickChecklist,
} from './visits';
import { beginBench, benchRead, endBench, type BeginBench, type BenchRead, type EndBench } from './bench';
import { stampDeployment, type StampDeployment } from './deployRequests';
import { addPhotograph, largestPhotographBody, occasionWords, type AddPhotograph } from './photographs';
import { installPlanned, type InstallPlanned } from './planRequests';
import type { Permission } from './permission';
import { addLevelReading, addSurvey, type AddLevelReading, type AddSurvey } from './water';
import type { ProblemBody } from './problem';
import {
  addNote,
  beginOffLine,
  captureReading,
  observeLater,
  endOffLine,
  type AddNote,
  type BeginOffLine,
  type CaptureReading,
  type ObserveLater,
  type EndOffLine,
} from './requests';

/**
 * Field writes: what a person can do at a station whether the server can be reached or not. Each is declared
 * here, once; its route takes it by `receive()`, and the browser's outbox keeps and delivers it.
 */
export interface FieldWrite<Body> {
  readonly method: 'POST' | 'DELETE';
  /** Under /api/, as the folders of its route are called. */
  readonly path: string;
  readonly permission: Permission;
  readonly schema: Joi.ObjectSchema<Body>;
  /** The longest body, bytes; left out, what a form may have. */
  readonly largest?: number;
  /** What it is, in a word or two. */
  readonly title: string;
  /** What was done, for a line about it. */
  readonly says: (body: Body) => string;
}

/** What each carries. A field write begins here; the compiler then asks for its declaration. */
export interface FieldWriteBodies {
  readonly note: AddNote;
  readonly photograph: AddPhotograph;
  readonly offLineBegin: BeginOffLine;
  readonly offLineEnd: EndOffLine;
  readonly sensorConnected: InstallPlanned;
  readonly launchStamp: StampDeployment;
  readonly checkReading: CaptureReading;
  readonly checkObservation: ObserveLater;
  readonly arrive: Arrive;
  readonly leave: Leave;
  readonly checklistAdd: AddToChecklist;
  readonly checklistTick: TickChecklist;
  readonly benchBegin: BeginBench;
  readonly benchReading: BenchRead;
  readonly benchEnd: EndBench;
  readonly levelReading: AddLevelReading;
  readonly levelSurvey: AddSurvey;
}
export type FieldWriteKind = keyof FieldWriteBodies;

const station = 'v1/stations/[stationId]';

export const fieldWrites: { readonly [K in FieldWriteKind]: FieldWrite<FieldWriteBodies[K]> } = {
  note: {
    method: 'POST',
    path: 'v1/field-book',
    permission: 'note',
    schema: addNote,
    title: 'Note',
    says: ({ text }) => text,
  },
  photograph: {
    method: 'POST',
    path: `${station}/photographs`,
    permission: 'measure',
    schema: addPhotograph,
    largest: largestPhotographBody,
    title: 'Photograph',
    says: ({ occasion, note }) => `${occasionWords[occasion]}${note ? `: ${note}` : ''}`,
  },
  offLineBegin: {
    method: 'POST',
    path: `${station}/installations/[installationId]/off-line`,
    permission: 'measure',
    schema: beginOffLine,
    title: 'Leads off',
    says: ({ reason }) => reason,
  },
  offLineEnd: {
    method: 'DELETE',
    path: `${station}/installations/[installationId]/off-line`,
    permission: 'measure',
    schema: endOffLine,
    title: 'Leads on again',
    says: () => 'the off-line window ends',
  },
  sensorConnected: {
    method: 'POST',
    path: `${station}/plan/install`,
    permission: 'measure',
    schema: installPlanned,
    title: 'Sensor connected',
    says: ({ serial, landed }) =>
      `${serial}: ${landed.map((l) => `${l.colour} on ${l.terminal}`).join(', ') || 'no lead ticked'}`,
  },
  launchStamp: {
    method: 'POST',
    path: `${station}/deployments/[deploymentId]/stamps`,
    permission: 'measure',
    schema: stampDeployment,
    title: 'Logger stamped',
    says: ({ what }) => (what === 'hung' ? 'hangs where it measures' : 'taken down'),
  },
  checkReading: {
    method: 'POST',
    path: `${station}/checks/[checkId]/readings`,
    permission: 'measure',
    schema: captureReading,
    title: 'Reading of a check',
    says: ({ reference, typed }) =>
      [
        reference && `reference ${reference.value} ${reference.unit}`,
        typed && `logger's display ${typed.sensor.value} ${typed.sensor.unit}`,
      ]
        .filter(Boolean)
        .join(', ') || 'read through the logger',
  },
  checkObservation: {
    method: 'POST',
    path: `${station}/checks/[checkId]/readings/[readingId]/observations`,
    permission: 'measure',
    schema: observeLater,
    title: 'Test of a sample',
    says: ({ entered }) => `${entered.value} ${entered.unit}`,
  },
  arrive: {
    method: 'POST',
    path: `${station}/arrivals`,
    permission: 'measure',
    schema: arrive,
    title: 'Arrived',
    says: ({ others, acknowledged }) =>
      [others && `with ${others}`, acknowledged.length > 0 && `${acknowledged.length} cautions acknowledged`]
        .filter(Boolean)
        .join(', ') || 'alone',
  },
  leave: {
    method: 'POST',
    path: `${station}/departures`,
    permission: 'measure',
    schema: leave,
    title: 'Left',
    says: ({ leftOpen }) => leftOpen.map((l) => l.reason).join('; ') || 'nothing stays open',
  },
  checklistAdd: {
    method: 'POST',
    path: `${station}/checklist`,
    permission: 'measure',
    schema: addToChecklist,
    title: 'Checklist',
    says: ({ kind, says }) => `${checklistWords[kind]}: ${says}`,
  },
  checklistTick: {
    method: 'POST',
    path: `${station}/checklist/ticks`,
    permission: 'measure',
    schema: tickChecklist,
    title: 'Ticked',
    says: ({ says, done }) => (done ? says : `taken back: ${says}`),
  },
  benchBegin: {
    method: 'POST',
    path: `${station}/bench`,
    permission: 'measure',
    schema: beginBench,
    title: 'Measuring begins',
    says: () => 'with a meter',
  },
  benchReading: {
    method: 'POST',
    path: `${station}/bench/[sessionId]/readings`,
    permission: 'measure',
    schema: benchRead,
    title: 'Reading of a meter',
    says: ({ measured: { from, to, through, kind }, typed }) =>
      `${from !== null ? `${from} – ${to}` : (through ?? kind)}: ${typed}`,
  },
  benchEnd: {
    method: 'POST',
    path: `${station}/bench/[sessionId]/end`,
    permission: 'measure',
    schema: endBench,
    title: 'Measuring ends',
    says: ({ outcome }) => outcome,
  },
  levelReading: {
    method: 'POST',
    path: `${station}/water/readings`,
    permission: 'measure',
    schema: addLevelReading,
    title: 'Water level',
    says: ({ read }) => readText(read),
  },
  levelSurvey: {
    method: 'POST',
    path: `${station}/water/surveys`,
    permission: 'measure',
    schema: addSurvey,
    title: 'Levelling survey',
    says: ({ surveyedBy, sheet, stated }) =>
      `${surveyedBy}: ${sheet ? `${sheet.rows.length} rows` : `${stated.length} elevations`}`,
  },
};

/** What is there already where a field write is refused for it: in the problem's `extra`. */
export interface InConflict {
  readonly there: {
    /** Initials of whoever did it. */
    readonly by: string;
    readonly says: string;
    readonly from: string;
    /** Null: goes on, or has no end. */
    readonly until: string | null;
  };
}

/** Whose write it is: a device may be handed on, and a session may end between the act and its delivery. */
export const actingPersonHeader = 'acting-person';

/** Where a field write goes, its parameters filled in. */
export const fieldWriteAddress = (
  { path }: { readonly path: string },
  params: Readonly<Record<string, string>>,
): string =>
  `/api/${path.replace(/\[(\w+)\]/g, (_, name: string) => encodeURIComponent(params[name] ?? name))}`;

/** Several field writes at once, in the order of the acts: what waited goes faster together. */
export interface SendTogether {
  writes: {
    key: string;
    kind: FieldWriteKind;
    params: Readonly<Record<string, string>>;
    /** Judged by the schema of its kind. */
    body: unknown;
    device: DeviceTime;
    /** Id of whoever did it. */
    person: string;
  }[];
}
/** So many, and so long a body of them, bytes. */
export const mostTogether = 25;
export const largestTogether = 400_000;

const kinds = Object.keys(fieldWrites) as [FieldWriteKind, ...FieldWriteKind[]];
export const sendTogether = shape<SendTogether>({
  writes: must(
    listOf(
      shape<SendTogether['writes'][number]>({
        key: id,
        kind: must(oneOf<FieldWriteKind>()(...(kinds as [FieldWriteKind]))),
        params: must(mapOf(text((s) => s.max(60)))),
        body: must(anything()),
        device: must(shape<DeviceTime>({ at: must(text((s) => s.isoDate())), ahead: must(finite()) })),
        person: id,
      }),
      (a) => a.max(mostTogether),
    ),
  ),
});

/**
 * What became of each, up to the first that was not taken: what stands behind it was not looked at.
 */
export interface TakenTogether {
  readonly outcomes: readonly ({ readonly answer: unknown } | { readonly problem: ProblemBody })[];
}
