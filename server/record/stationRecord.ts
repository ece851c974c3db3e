import type { StationRecordView } from '@/contract/recordViews';
import type { Database } from '@/db/database';
import { loadStation } from '../station/stationGraph';
import { derivations, derivationText } from './derivation';
import { verifyList, verifyQuery } from '../verify/list';

/** Every channel of one station with how far its record can be trusted, as Verify has it, by number. */
export async function stationRecord(db: Database, stationId: string, now: Date): Promise<StationRecordView> {
  const { station, site, channels } = await loadStation(db, stationId);
  const derived = await derivations(db, stationId);
  const { rows: standings } = await verifyList(
    db,
    verifyQuery(new URLSearchParams({ station: stationId })),
    now,
  );
  return {
    stationId,
    code: station.code,
    name: station.name,
    site: site.name,
    zone: site.zone,
    channels: channels.flatMap((c) => {
      const standing = standings.find((r) => r.channelId === c.row.id);
      const d = derived.get(c.row.id);
      const formula = d ? derivationText(d, channels) : null;
      return standing ? [{ ...standing, number: c.row.number, source: c.row.source, formula }] : [];
    }),
  };
}
