import type { StageWetThreshold } from '@/contract/requests';
import type { WetThresholdView } from '@/contract/settingViews';
import { formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { valueFromBase, valueToBase } from '@/core/quantity/unit';
import { doubtsOfDry, dryAfterRain, wetThreshold, type DryWeather } from '@/core/settings/wetThreshold';
import { newestReadings, sumOfReadings } from '@/db/record';
import type { LiveValues } from '@/devices/logger';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import {
  channelOf,
  isLogged,
  loadStation,
  loggerNumber,
  type ChannelNode,
  type StationGraph,
} from '../station/stationGraph';
import { askLogger } from './askLogger';
import { loggerLink } from './loggerLink';
import { stageSettings } from './settings';

const hour = 3_600_000;

/**
 * Stages from where on a leaf counts as wet: what its channel reads now, said to be dry, plus the margin of its
 * profile. The channel has to be on and written first; after rain or near the dew point it takes a reason.
 */
export async function stageWetThreshold(
  ctx: Context,
  stationId: string,
  channelId: string,
  request: StageWetThreshold,
): Promise<WetThresholdView> {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  const number = loggerNumber(channel);
  const margin = channel.output?.wetMargin;
  if (margin === undefined)
    throw inTheWay(
      'no-wet-threshold',
      `${channel.name} is fed by nothing that is dry or wet.`,
      'Choose a channel of leaf wetness whose sensor says its margin.',
    );
  const { written } = channel;
  if (!written?.settings.enabled)
    throw inTheWay(
      'channel-not-active',
      `${channel.name} is not on in the logger, so it reads nothing.`,
      'Switch the channel on and write its settings first, then read it dry.',
    );
  if (!request.isDry)
    throw badField(
      'not-dry',
      'isDry',
      false,
      'Nobody said that the leaf is dry.',
      'Look at it, wipe it, wait until it is dry.',
    );
  const live = await askLogger(
    async () => (await loggerLink(ctx, graph)).live(),
    'The logger gave no live values',
    'Nothing was staged. Check its power and network, then read it again.',
  );
  const q = quantityOf(channel.row.quantity);
  const shown = live.channels.find((c) => c.number === number)?.value ?? null;
  if (shown === null)
    throw inTheWay(
      'sensor-silent',
      'The logger has no value of this sensor just now.',
      'Nothing was staged. Talk to it under Connect.',
    );
  const dry = valueToBase(shown, written.settings.unit, q.unit);
  const weather = await weatherAt(ctx, graph, live);
  const doubts = doubtsOfDry(weather);
  const why = request.despite.trim();
  if (doubts.length > 0 && why === '')
    throw inTheWay(
      'doubtful-dry',
      `It reads ${formatValue(dry, q.decimals)} ${q.unit}, but ${doubts.join(' and ')}.`,
      'Wait until it is dry, or say why it is dry all the same.',
      { dry, doubts },
    );
  const reckoned = wetThreshold({
    dry,
    margin,
    decimals: q.decimals,
    unit: q.unit,
  });
  const now = (channel.staged ?? written).settings;
  const { revision } = await stageSettings(
    ctx,
    stationId,
    channelId,
    {
      revisionId: request.revisionId,
      basedOn: request.basedOn,
      settings: { ...now, wetAbove: valueFromBase(reckoned.threshold, now.unit, q.unit) },
    },
    {
      text: `wet from ${formatValue(reckoned.threshold, q.decimals)} ${q.unit} on, read dry${doubts.length > 0 ? ` although ${doubts.join(' and ')}: ${why}` : ''}`,
      sum: reckoned.sum,
    },
  );
  return {
    revision,
    sum: reckoned.sum,
    unknown: [...(weather.rain === null ? ['rain'] : []), ...(weather.air === null ? ['the dew point'] : [])],
  };
}

/** What the station itself knows of rain and air. */
async function weatherAt(ctx: Context, graph: StationGraph, live: LiveValues): Promise<DryWeather> {
  const now = ctx.now().getTime();
  const gauges = graph.channels.filter((c) => c.row.quantity === 'rain');
  const newest = await newestReadings(
    ctx.db,
    gauges.map((c) => c.row.key),
  );
  const sums = await Promise.all(
    gauges.map((c) => sumOfReadings(ctx.db, graph.station.key, c.row.key, now - dryAfterRain * hour, now)),
  );
  const last = Math.max(...[...newest.values()].map((r) => r.at));
  return {
    rain: newest.size === 0 ? null : { mm: Math.max(...sums), unknownFor: Math.max(0, now - last) / hour },
    air: airNow(graph, live),
  };
}

/** Air temperature and humidity of one sensor, as the logger shows them now. */
function airNow(graph: StationGraph, live: LiveValues): DryWeather['air'] {
  const logged = graph.channels.filter(isLogged);
  const shown = (c: ChannelNode) => {
    const value = live.channels.find((l) => l.number === c.row.number)?.value ?? null;
    return value === null || !c.written
      ? null
      : valueToBase(value, c.written.settings.unit, quantityOf(c.row.quantity).unit);
  };
  for (const c of logged.filter((l) => l.row.quantity === 'humidity')) {
    const beside = logged.find(
      (t) => t.row.quantity === 'airTemperature' && t.installation?.row.id === c.installation?.row.id,
    );
    const [humidity, temperature] = [shown(c), beside ? shown(beside) : null];
    if (humidity !== null && temperature !== null) return { temperature, humidity };
  }
  return null;
}
