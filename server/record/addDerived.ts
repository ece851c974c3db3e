import type { AddDerived } from '@/contract/verifyRequests';
import { formulaOf } from '@/core/derived/formulas';
import { inSentence, type QuantityCode } from '@/core/quantity/quantity';
import { rows } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { channelOf, loadStation, type StationGraph } from '../station/stationGraph';
import { activeLayers, createLayer } from '../verify/layers';
import { mendDerived } from './mendDerived';
import { recordAct } from '../book/recordAct';

/** Makes a channel that follows from others of its station. Its record is there when this returns. */
export async function addDerived(
  ctx: Context,
  stationId: string,
  request: AddDerived,
): Promise<{ channelId: string }> {
  const { channelId } = request;
  await atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    if (graph.channels.some((c) => c.row.id === channelId)) return;
    const { quantity, inputs } = checked(graph, request);
    const formula = formulaOf(request.formula);
    const derivations = await rows(ctx.db.derivation, { where: { stationId }, transaction: tx });
    const same = derivations.find(
      (d) =>
        d.formula === request.formula &&
        JSON.stringify(sorted(d.inputs)) === JSON.stringify(sorted(inputs)) &&
        JSON.stringify(sorted(d.parameters)) === JSON.stringify(sorted(request.parameters)),
    );
    if (same)
      throw inTheWay(
        'derived-already',
        `${channelOf(graph, same.channelId).name} is this ${formula.name} already.`,
        'Look at that channel.',
      );
    await ctx.db.channel.create(
      {
        stationId,
        id: channelId,
        loggerId: null,
        number: null,
        quantity,
        zoneName: request.zoneName,
        checkEveryDays: 180,
        source: 'derived',
      },
      { transaction: tx },
    );
    await ctx.db.derivation.create(
      {
        stationId,
        channelId,
        formula: request.formula,
        inputs,
        parameters: request.parameters,
        personId: ctx.person.id,
        setAt: ctx.now(),
      },
      { transaction: tx },
    );
    // Its stamps are those of what it rests on: where their drift is taken out, so is its.
    const [first] = Object.values(inputs);
    const drifts = (await activeLayers(ctx.db, stationId, first!, undefined, undefined, tx)).filter(
      (l) => l.kind === 'clock' && l.parameters.drift,
    );
    for (const { fromAt, untilAt, parameters, reason } of drifts)
      await createLayer(ctx, tx, {
        stationId,
        channelId,
        kind: 'clock',
        fromAt,
        untilAt,
        parameters,
        reason,
      });
    await recordAct(ctx, tx, {
      stationId,
      channelId,
      occurredAt: ctx.now(),
      kind: 'verify',
      text: `Derived ${request.zoneName} ${inSentence(quantity)}: ${formula.name} of ${Object.values(inputs)
        .map((id) => channelOf(graph, id).name)
        .join(' and ')}`,
      sum: formula.says,
      action: 'channel.derive',
      subject: { channelId, formula: request.formula, inputs },
    });
  });
  await mendDerived(ctx.db, stationId);
  return { channelId };
}

const sorted = (of: Readonly<Record<string, unknown>>) =>
  Object.entries(of).sort(([a], [b]) => a.localeCompare(b));

/** The quantity that comes out, and the inputs that were chosen; refuses what does not fit the formula. */
function checked(
  graph: StationGraph,
  request: AddDerived,
): { quantity: QuantityCode; inputs: Record<string, string> } {
  const formula = formulaOf(request.formula);
  const refuse = (field: string, value: unknown, detail: string, remedy: string) =>
    badField('bad-derivation', field, value, detail, remedy);
  const inputs: Record<string, string> = {};
  let same: QuantityCode | null = null;
  for (const [name, { label, quantity, optional }] of Object.entries(formula.inputs)) {
    const id = request.inputs[name];
    if (!id) {
      if (optional) continue;
      throw refuse(`inputs.${name}`, null, `${label} is missing.`, 'Choose the channel it comes from.');
    }
    const found = graph.channels.find((c) => c.row.id === id);
    if (!found)
      throw refuse(
        `inputs.${name}`,
        id,
        `${label}: that channel is not at this station.`,
        'Choose one of this station.',
      );
    if (found.row.source === 'derived')
      throw refuse(
        `inputs.${name}`,
        found.name,
        `${found.name} is derived itself.`,
        'Choose the channels it rests on: a formula takes what was logged.',
      );
    const wanted: QuantityCode | null = quantity ?? same;
    if (wanted && found.row.quantity !== wanted)
      throw refuse(
        `inputs.${name}`,
        found.name,
        `${label}: ${found.name} carries ${inSentence(found.row.quantity)}, not ${inSentence(wanted)}.`,
        'Choose a channel of that quantity.',
      );
    if (Object.values(inputs).includes(id))
      throw refuse(`inputs.${name}`, found.name, `${found.name} was chosen twice.`, 'Choose two channels.');
    same ??= quantity === null ? found.row.quantity : null;
    inputs[name] = id;
  }
  for (const [name, { label, unit, range }] of Object.entries(formula.parameters)) {
    const value = request.parameters[name];
    if (value === undefined || value < range[0] || value > range[1])
      throw refuse(
        `parameters.${name}`,
        value ?? null,
        `${label} is ${value ?? 'missing'}.`,
        `Give ${range[0]} to ${range[1]} ${unit}.`,
      );
  }
  const unknown = [...Object.keys(request.inputs), ...Object.keys(request.parameters)].find(
    (name) => !(name in formula.inputs) && !(name in formula.parameters),
  );
  if (unknown) throw refuse('inputs', unknown, `The formula knows nothing of "${unknown}".`, 'Leave it out.');
  return { quantity: formula.quantity ?? same!, inputs };
}
