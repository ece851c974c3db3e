import type { ChangePart } from '@/contract/busRequests';
import type { BusWriteView, PartView } from '@/contract/busViews';
import { partCoefficients, partWords, refuseCoefficients } from '@/core/device/part';
import type { Database } from '@/db/database';
import type { Context } from '../context';
import { withLease } from '../device/lease';
import { lastPartChange } from '../device/partChange';
import { newId } from '../id';
import { badField, inTheWay } from '../problem';
import type { InstallationNode } from '../station/stationGraph';
import { askUnit, explain, type BusLine } from './line';
import { busDevice } from './recoveryCase';
import { held, perform, plain } from './write';

/**
 * Tells a sensor the coefficients of a part that was replaced in it. What it held is read first and kept, so that it
 * can be put back; what it holds then is read back. From then on its checks are as good as never made.
 */
export async function changePart(
  ctx: Context,
  stationId: string,
  sessionId: string,
  { actionId, installationId, serial, coefficients }: ChangePart,
): Promise<BusWriteView> {
  const { graph, line } = await held(ctx, stationId, sessionId);
  const { installation } = busDevice(graph, installationId);
  const { part } = installation.profile;
  if (!part)
    throw inTheWay(
      'no-part',
      `${installation.sensor.serial} has no part that brings coefficients.`,
      'Nothing needs to be set.',
    );
  const wrong = refuseCoefficients(part, coefficients);
  if (wrong)
    throw badField(
      'coefficient-unfit',
      `coefficients.${wrong.at}`,
      coefficients[wrong.at] ?? null,
      `${wrong.says}.`,
      'Read its label again: sign, decimal point, exponent.',
    );
  const unit = installation.row.busId!;
  const values = partWords(coefficients);
  const previous = await heldNow(ctx, line, unit, part.register, values.length);
  const write = { unit, serial: null, address: part.register, values };
  return perform(ctx, graph, line, actionId, {
    ...plain(sessionId, line),
    writes: [
      write,
      ...(part.storeRegister === null
        ? []
        : [{ unit, serial: null, address: part.storeRegister, values: [1] }]),
    ],
    check: write,
    part: { installationId, name: part.name, serial, coefficients, previous },
    says: `${part.name} ${serial} of ${installation.sensor.serial}: ${part.coefficients
      .map(({ name }, i) => `${name} ${previous[i]} → ${coefficients[i]}`)
      .join(', ')}`,
  });
}

/** The coefficients it holds now; refused where it does not say, since nobody could put them back. */
async function heldNow(
  ctx: Context,
  line: BusLine,
  unit: number,
  address: number,
  count: number,
): Promise<number[]> {
  const answer = await withLease(ctx.db, line.line, newId(), (lease) =>
    askUnit(line, lease, unit, { fn: 3, address, count }),
  );
  if (answer.ok) return partCoefficients(answer.registers);
  throw inTheWay(
    'sensor-silent',
    `ID ${unit} did not say which coefficients it holds: ${explain(answer)}.`,
    'Nothing was written. Look at the line first.',
  );
}

/** The part of a device as the console shows it, with what was put in last; null where it has none. */
export async function partView(db: Database, installation: InstallationNode): Promise<PartView | null> {
  const { part } = installation.profile;
  if (!part) return null;
  const last = await lastPartChange(db, installation);
  return {
    name: part.name,
    coefficients: [...part.coefficients],
    last: last
      ? {
          serial: last.serial,
          coefficients: [...last.coefficients],
          previous: last.previous && [...last.previous],
          at: last.changedAt.toISOString(),
        }
      : null,
  };
}
