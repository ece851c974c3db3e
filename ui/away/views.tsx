import type { ReactNode } from 'react';
import type { FieldBookPage, HandOver as HandOverView } from '@/contract/fieldBookPage';
import type { CircuitsView, BenchView, MeterView } from '@/contract/bench';
import type { DeployView } from '@/contract/deployViews';
import type { PlanView } from '@/contract/planViews';
import type { CheckStartView, CheckView, InstrumentView } from '@/contract/checkViews';
import type { ConnectView, FieldBookLineView, StationSheet as Sheet } from '@/contract/views';
import type { WaterView } from '@/contract/water';
import type { VisitView } from '@/contract/visits';
import { BenchPage } from '../bench/BenchPage';
import { SensorBench } from '../bench/SensorBench';
import { Calculator } from '../calculator/Calculator';
import { CheckRun } from '../check/CheckRun';
import { CheckStart } from '../check/CheckStart';
import { Connect } from '../connect/Connect';
import { DeployPage } from '../deploy/DeployPage';
import { BookPage } from '../fieldBook/BookPage';
import { FieldBook } from '../fieldBook/FieldBook';
import { Kit } from '../kit/Kit';
import { Circuits } from '../circuit/Circuits';
import { Meters } from '../kit/Meters';
import { Unsent } from '../outbox/Unsent';
import { PlanPage } from '../plan/PlanPage';
import { WiringSheet } from '../plan/WiringSheet';
import { StationSheet } from '../station/StationSheet';
import { bookAddress, circuitsAddress, kitAddress, metersAddress, of } from '../taken/addresses';
import type { HeldStop } from '../taken/store';
import { PointsPage } from '../water/PointsPage';
import { SurveyPage } from '../water/SurveyPage';
import { WaterPage } from '../water/WaterPage';
import { HandOver } from '../visit/HandOver';
import { VisitPage } from '../visit/VisitPage';
import { HeldStops } from './HeldStops';

/** Where a view stands and what was asked for in its address. */
interface At {
  /** What stood at the places of its path, by name. */
  readonly params: Readonly<Record<string, string>>;
  readonly query: URLSearchParams;
  readonly stops: readonly HeldStop[];
}
/** A view that can be drawn from what a device holds. */
export interface AwayView {
  /** Its path, as the folders of its page are called. */
  readonly path: string;
  /** What it is drawn from; null for one that needs nothing. */
  readonly address: ((at: At) => string) | null;
  readonly draw: (body: unknown, at: At) => ReactNode;
}

/** Stations as a book's forms want them. */
const stationsOf = (stops: readonly HeldStop[], lines: readonly FieldBookLineView[]) =>
  stops.map(({ stationId, stop: { code, name } }) => ({
    id: stationId,
    code,
    name,
    zone: lines.find((l) => l.stationId === stationId)?.zone ?? 'utc',
  }));

const station = '/stations/[stationId]';

/** Every view that works away. What is not here needs the server. */
export const awayViews: readonly AwayView[] = [
  { path: '/', address: null, draw: () => <HeldStops /> },
  { path: '/take-along', address: null, draw: () => <HeldStops /> },
  { path: '/unsent', address: null, draw: () => <Unsent /> },
  { path: '/kit/calculator', address: null, draw: () => <Calculator /> },
  {
    path: '/kit/meters',
    address: () => metersAddress,
    draw: (body) => <Meters initial={body as MeterView[]} />,
  },
  {
    path: '/kit/circuits',
    address: () => circuitsAddress,
    draw: (body) => <Circuits initial={body as CircuitsView} />,
  },
  { path: '/kit', address: () => kitAddress, draw: (body) => <Kit initial={body as InstrumentView[]} /> },
  {
    path: '/field-book',
    address: ({ query }) => {
      const stationId = query.get('station');
      return stationId ? of(stationId).book : bookAddress;
    },
    draw: (body, { query, stops }) => {
      const lines = body as FieldBookLineView[];
      return (
        <FieldBook
          initial={lines}
          stations={stationsOf(stops, lines)}
          choices={null}
          asked={{ station: query.get('station') ?? undefined }}
        />
      );
    },
  },
  {
    path: station,
    address: ({ params }) => of(params.stationId!).sheet,
    draw: (body) => <StationSheet initial={body as Sheet} />,
  },
  {
    path: `${station}/visit`,
    address: ({ params }) => of(params.stationId!).visit,
    draw: (body) => <VisitPage initial={body as VisitView} />,
  },
  {
    path: `${station}/visits/[visitId]`,
    address: ({ params }) => of(params.stationId!).page(params.visitId!),
    draw: (body) => <BookPage initial={body as FieldBookPage} />,
  },
  {
    path: `${station}/bench`,
    address: ({ params }) => of(params.stationId!).bench,
    draw: (body) => <BenchPage initial={body as BenchView} />,
  },
  {
    path: `${station}/bench/[installationId]`,
    address: ({ params }) => of(params.stationId!).bench,
    draw: (body, { params }) => (
      <SensorBench initial={body as BenchView} installationId={params.installationId!} />
    ),
  },
  ...[
    { path: '/water', View: WaterPage },
    { path: '/water/points', View: PointsPage },
    { path: '/water/survey', View: SurveyPage },
  ].map(({ path, View }): AwayView => ({
    path: station + path,
    address: ({ params }) => of(params.stationId!).water,
    draw: (body) => <View initial={body as WaterView} />,
  })),
  {
    path: `${station}/hand-over`,
    address: ({ params }) => of(params.stationId!).handOver,
    draw: (body) => <HandOver initial={body as HandOverView} />,
  },
  {
    path: `${station}/connect`,
    address: ({ params }) => of(params.stationId!).connect,
    draw: (body) => <Connect initial={body as ConnectView} />,
  },
  {
    path: `${station}/connect/plan`,
    address: ({ params }) => of(params.stationId!).plan,
    draw: (body) => <PlanPage initial={body as PlanView} />,
  },
  {
    path: `${station}/connect/plan/sheet`,
    address: ({ params }) => of(params.stationId!).plan,
    draw: (body) => {
      const view = body as PlanView;
      return view.plan ? <WiringSheet view={view} plan={view.plan} /> : null;
    },
  },
  {
    path: `${station}/connect/deploy`,
    address: ({ params }) => of(params.stationId!).deployment,
    draw: (body) => <DeployPage initial={body as DeployView} />,
  },
  {
    path: `${station}/check`,
    address: ({ params }) => of(params.stationId!).checks,
    draw: (body, { query }) => <CheckStart start={body as CheckStartView} channelId={query.get('channel')} />,
  },
  {
    path: `${station}/check/[checkId]`,
    address: ({ params }) => of(params.stationId!).check(params.checkId!),
    draw: (body) => <CheckRun initial={body as CheckView} />,
  },
];

/** The view of a path with what stands at its places; null where none works away. */
export function awayViewOf(path: string): { view: AwayView; params: Record<string, string> } | null {
  const parts = path.split('/').filter(Boolean);
  for (const view of awayViews) {
    const wanted = view.path.split('/').filter(Boolean);
    if (wanted.length !== parts.length) continue;
    const params: Record<string, string> = {};
    const fits = wanted.every((w, i) => {
      const name = /^\[(\w+)\]$/.exec(w)?.[1];
      if (!name) return w === parts[i];
      params[name] = decodeURIComponent(parts[i]!);
      return true;
    });
    if (fits) return { view, params };
  }
  return null;
}
