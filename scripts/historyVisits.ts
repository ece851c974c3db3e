import type { Context, Person } from '@/server/context';
import { addNote } from '@/server/book/fieldBook';
import { bookPage, signBookPage } from '@/server/book/page';
import { newId } from '@/server/id';
import { bringIn } from '@/server/handheld/handheldReadings';
import { addPhotograph } from '@/server/photograph/photographs';
import { addToChecklist, tickChecklist } from '@/server/visit/checklist';
import { arriveAt, leaveFrom } from '@/server/visit/comeAndGo';
import { openMatters } from '@/server/visit/open';
import { matterKey } from '@/core/visit/openMatter';
import { row, type Database } from '@/db/database';
import { drawTerminals, type DrawnTerminal } from './drawnTerminals';

/** A visit that was lived: who came on which day, what they wrote, drew and left. */
interface LivedVisit {
  readonly station: string;
  readonly daysAgo: number;
  readonly by: 'technician' | 'admin';
  readonly others: string;
  readonly notes: readonly string[];
  readonly terminals?: readonly DrawnTerminal[];
  /** What was to be put back; done before leaving unless a reason says why not. */
  readonly putBack?: { readonly says: string; readonly reason: string | null };
  readonly toDo?: string;
  readonly signed: boolean;
}

const terminals = (text: string): DrawnTerminal[] =>
  text.split(' ').map((t) => {
    const [label = '', lead = ''] = t.split(':');
    return { label, lead };
  });

const lived: readonly LivedVisit[] = [
  {
    station: 'ARCH-1',
    daysAgo: 84,
    by: 'technician',
    others: 'AR',
    notes: ['Lamp heater was on until nine; waited an hour before comparing.'],
    terminals: terminals('V+:brown V-:white D+:green D-:yellow SH:bare 6 7'),
    signed: true,
  },
  {
    station: 'MOSS-1',
    daysAgo: 61,
    by: 'technician',
    others: 'AR',
    notes: ['Well A: tape wet at 0.62 below the rim.', 'Boardwalk slippery at the second post.'],
    toDo: 'Two planks for the boardwalk',
    signed: true,
  },
  {
    station: 'ARCH-2',
    daysAgo: 58,
    by: 'admin',
    others: '',
    notes: ['Door to the store was left open by visitors; closed, waited half an hour.'],
    signed: true,
  },
  {
    station: 'SLUICE-1',
    daysAgo: 52,
    by: 'technician',
    others: 'AR',
    notes: ['Weed on the staff, wiped off before reading.'],
    signed: true,
  },
  {
    station: 'KELP-1',
    daysAgo: 40,
    by: 'technician',
    others: '',
    notes: ['Condensation in the gland of the shed transmitter; dried, gland tightened.'],
    terminals: terminals('V+:brown V-:white D+:green D-:yellow SH:bare 6 7 8'),
    putBack: { says: 'Fan output in hand', reason: null },
    signed: true,
  },
  {
    station: 'SLIP-1',
    daysAgo: 35,
    by: 'admin',
    others: '',
    notes: ['Ferry wash: three readings of the board averaged.'],
    signed: false,
  },
  {
    station: 'HATCH-1',
    daysAgo: 31,
    by: 'technician',
    others: 'AR',
    notes: ['Rinsed between buffers, back to 7 to close.', 'Boots and probe disinfected before and after.'],
    signed: true,
  },
  {
    station: 'ARCH-1',
    daysAgo: 18,
    by: 'technician',
    others: '',
    notes: ['Same place as last time: hook beside the lens.'],
    signed: true,
  },
  {
    station: 'HUT-2',
    daysAgo: 9,
    by: 'admin',
    others: 'IK',
    notes: ['Mice have been at the cable of the soil probe; sleeve cut, copper whole.'],
    terminals: terminals('1:red 2:black 3:white 4 5:green 6'),
    toDo: 'Conduit for the soil probe, 3 m',
    signed: false,
  },
  {
    station: 'MOSS-2',
    daysAgo: 2,
    by: 'technician',
    others: 'AR',
    notes: ['Wind limit tightened to 4 m/s to prove the alarm; the warden’s telephone had no signal.'],
    terminals: terminals('P1:white P2:black 3V3:red GND:bare 5 6'),
    putBack: {
      says: 'Wind limit, back to 22 m/s',
      reason: 'The warden confirms the alarm from the pier on Monday, then it goes back',
    },
    signed: false,
  },
];

interface Play {
  readonly db: Database;
  readonly now: number;
  readonly people: Readonly<Record<'technician' | 'admin', Person>>;
  at(ms: number, person?: Person): Context;
}

const day = 86_400_000;
const minute = 60_000;

/** Lives through the visits to one station. Its checks, at ten in the morning, fall within them. */
export async function playVisits(
  play: Play,
  stationId: string,
  code: string,
  cautions: readonly string[],
): Promise<void> {
  for (const visit of lived.filter((v) => v.station === code)) {
    const ten = play.now - visit.daysAgo * day + 10 * 60 * minute - (play.now % day);
    const come = ten - 25 * minute;
    const at = (minutes: number) => play.at(come + minutes * minute, play.people[visit.by]);
    const occurredAt = (minutes: number) => new Date(come + minutes * minute).toISOString();
    const { visitId } = await arriveAt(at(0), stationId, {
      arrivalId: newId(),
      others: visit.others,
      acknowledged: [...cautions],
      occurredAt: occurredAt(0),
    });
    if (visit.terminals)
      for (const [occasion, minutes, wet] of [
        ['before', 4, true],
        ['after', 100, false],
      ] as const)
        await addPhotograph(at(minutes), stationId, {
          photographId: newId(),
          occasion,
          note: wet ? 'as found, lid just off' : 'all leads seated',
          occurredAt: occurredAt(minutes),
          planRevision: null,
          position: null,
          picture: await drawTerminals(visit.terminals, wet),
        });
    for (const [i, text] of visit.notes.entries())
      await addNote(at(8 + i * 7), { lineId: newId(), stationId, text, occurredAt: occurredAt(8 + i * 7) });
    if (visit.toDo)
      await addToChecklist(at(90), stationId, {
        lineId: newId(),
        kind: 'to-do',
        says: visit.toDo,
        occurredAt: occurredAt(90),
      });
    if (visit.putBack) {
      const { says, reason } = visit.putBack;
      const lineId = newId();
      await addToChecklist(at(20), stationId, { lineId, kind: 'put-back', says, occurredAt: occurredAt(20) });
      if (!reason)
        await tickChecklist(at(105), stationId, {
          tickId: newId(),
          item: lineId,
          says,
          done: true,
          occurredAt: occurredAt(105),
        });
    }
    const gone = at(110);
    const open = (await openMatters(play.db, stationId)).filter((m) => m.since <= gone.now().getTime());
    await leaveFrom(gone, stationId, {
      departureId: newId(),
      leftOpen: open.map((m) => ({ matter: matterKey(m), reason: visit.putBack?.reason ?? 'on purpose' })),
      away: false,
      occurredAt: occurredAt(110),
    });
    if (visit.signed) {
      const evening = at(8 * 60);
      const { sha256 } = await bookPage(evening, stationId, visitId);
      await signBookPage(evening, stationId, visitId, { sha256, occurredAt: occurredAt(8 * 60) });
    }
  }
}

/** What the air handheld kept between two visits; nobody said yet where it belongs. */
export async function keepHandheldList(play: Play): Promise<void> {
  const handheld = await row(play.db.instrument, { where: { serial: 'HX-771' } });
  const ten = play.now - 18 * day + 10 * 60 * minute - (play.now % day);
  const kept = (minutes: number, temperature: number, humidity: number, label: string) =>
    (
      [
        ['airTemperature', temperature, '°C'],
        ['humidity', humidity, '%RH'],
      ] as const
    ).map(([quantity, entered, unit]) => ({
      readingId: newId(),
      at: new Date(ten + minutes * minute).toISOString(),
      quantity,
      entered,
      unit,
      label,
    }));
  await bringIn(play.at(play.now - day), {
    listId: newId(),
    fileName: 'HX-771 memory.csv',
    instrumentId: handheld?.id ?? null,
    readings: [...kept(25, 14.8, 61.2, '12'), ...kept(31, 14.9, 61, '13'), ...kept(190, 12.1, 74.5, '14')],
  });
}
