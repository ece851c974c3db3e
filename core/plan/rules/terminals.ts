import { connectionKinds, type ConnectionKind } from '../../device/connection';
import type { AbilityName } from '../../device/loggerProfile';
import { deviceName, isSignal, type LeadUse, type TerminalUse } from '../context';
import { outputInSentence } from '../../device/profile';
import { inSentence } from '../../quantity/quantity';
import { abilitiesFor, maySeveral } from '../fit';
import { pinName } from '../plan';
import { found, practice, rule } from '../rule';

/** Leads on terminals: at home, alone where they must be, none forgotten. */
const connectionName = (kind: ConnectionKind | 'board') =>
  kind === 'board' ? 'pins' : connectionKinds[kind].name;
const leadName = (l: LeadUse) => `${l.colour} lead of ${deviceName(l.device)}`;

export const profileMissing = rule({
  id: 'profile-missing',
  title: 'Unknown model',
  severity: 'fails',
  sum: 'every profile that the plan names is on file in its revision',
  source: practice,
  judge: ({ missing }) =>
    missing.map(({ pin, device }) =>
      found(
        `The profile ${pinName(pin)} is not on file: nobody knows what it needs.`,
        'Add that profile to the catalogue, or choose another model.',
        { devices: device ? [device] : [] },
      ),
    ),
});

export const terminalMissing = rule({
  id: 'terminal-missing',
  title: 'Terminal that is not there',
  severity: 'fails',
  sum: 'every terminal and splice that a lead names is one of this logger or cabinet',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) =>
      d.leads
        .filter((l) => l.lost !== null)
        .map((l) =>
          found(
            `The ${leadName(l)} ends on ${l.lost}, which ${c.logger?.name ?? 'this logger'} does not have.`,
            'Land it again; the logger may have been changed since.',
            { devices: [d.plan.id] },
          ),
        ),
    ),
});

export const leadUnfit = rule({
  id: 'lead-unfit',
  title: 'Lead on a terminal of another kind',
  severity: 'fails',
  sum: 'what a lead is for is among what its terminal does: + to +, − to −, a signal to an input',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) =>
      d.leads
        .filter((l) => l.terminal && !l.ability && l.signal !== 'spare')
        .map((l) =>
          found(
            `The ${leadName(l)} is ${l.signal}, terminal ${l.terminal!.terminal.label} is ${l
              .terminal!.terminal.abilities.map((a) => a.does)
              .join(' or ')}.`,
            `Land it on a terminal for ${d.kind ? abilitiesFor(d.kind, l.signal).join(' or ') : l.signal}.`,
            { devices: [d.plan.id], terminals: [l.terminal!.terminal.label] },
          ),
        ),
    ),
});

export const terminalShared = rule({
  id: 'terminal-shared',
  title: 'Terminal used twice',
  severity: 'fails',
  sum: 'leads on an analog, current or pulse input ≤ 1; ground, supply, excitation and buses may be shared',
  source: practice,
  judge: (c) =>
    [...c.terminals.values()].flatMap(({ terminal, leads }) => {
      const alone = leads.filter((l) => l.ability && !maySeveral(l.ability.does, l.device.kind));
      if (alone.length === 0 || leads.length < 2) return [];
      return [
        found(
          `Terminal ${terminal.label} carries ${leads.map(leadName).join(' and ')}: neither can be read.`,
          'Give each signal an input of its own.',
          {
            sum: `${leads.length} leads > 1`,
            devices: [...new Set(leads.map((l) => l.device.plan.id))],
            terminals: [terminal.label],
          },
        ),
      ];
    }),
});

export const leadOpen = rule({
  id: 'lead-open',
  title: 'Lead without a place',
  severity: 'fails',
  sum: 'every lead but shields and spare ones comes to a terminal, on its own or through another sensor',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const open = d.leads.filter(
        (l) => l.signal !== 'shield' && l.signal !== 'spare' && !l.terminal && l.lost === null,
      );
      return open.length === 0
        ? []
        : [
            found(
              `${deviceName(d)} has ${open.length === 1 ? 'a lead that ends' : `${open.length} leads that end`} nowhere: ${open.map((l) => `${l.colour} (${l.signal})`).join(', ')}.`,
              'Land them, or let propose find a place.',
              { devices: [d.plan.id], sum: `${d.leads.length - open.length} of ${d.leads.length} landed` },
            ),
          ];
    }),
});

/** Terminals of an ability, and those of them that nothing uses. */
function places(all: readonly TerminalUse[], names: readonly AbilityName[]) {
  const able = all.filter((t) => t.terminal.abilities.some((a) => names.includes(a.does)));
  return { able, free: able.filter((t) => t.leads.length === 0) };
}

export const inputsTaken = rule({
  id: 'inputs-taken',
  title: 'Every input taken',
  severity: 'fails',
  sum: 'signal leads that need an input of their own ≤ free inputs of that kind',
  source: practice,
  judge: (c) => {
    if (!c.logger) return [];
    const all = [...c.terminals.values()];
    return c.devices.flatMap((d) =>
      d.leads
        .filter((l) => isSignal(l.signal) && !l.terminal && l.lost === null)
        .flatMap((l) => {
          const names = abilitiesFor(d.kind!, l.signal);
          const { able, free } = places(all, names);
          if (free.length > 0 || names.some((n) => maySeveral(n, d.kind))) return [];
          const holders = [...new Set(able.flatMap((t) => t.leads.map((x) => x.device.plan.name)))];
          return [
            found(
              able.length === 0
                ? `${c.logger!.name} has no ${names.join(' or ')} input for the ${leadName(l)}.`
                : `All ${able.length} inputs for ${names.join(' or ')} are taken; the ${leadName(l)} has none.`,
              able.length === 0
                ? 'Use another logger, or a sensor that is connected in another way.'
                : `Free one: ${holders.join(', ')} hold them.`,
              {
                sum: `${able.length} inputs, ${able.length} taken`,
                devices: [d.plan.id],
                terminals: able.map((t) => t.terminal.label),
              },
            ),
          ];
        })
        .slice(0, 1),
    );
  },
});

export const spliceOpen = rule({
  id: 'splice-open',
  title: 'Splice that leads nowhere',
  severity: 'fails',
  sum: 'every splice in use leads on to a terminal',
  source: practice,
  judge: ({ plan, devices }) =>
    plan.splices
      .filter((s) => s.terminal === null)
      .flatMap((s) => {
        const users = devices.filter((d) =>
          Object.values(d.plan.landings).some((p) => p.at === 'splice' && p.splice === s.name),
        );
        return users.length === 0
          ? []
          : [
              found(`Splice ${s.name} leads on to no terminal.`, 'Say which terminal it goes to.', {
                devices: users.map((d) => d.plan.id),
              }),
            ];
      }),
});

export const plugElsewhere = rule({
  id: 'plug-elsewhere',
  title: 'Plug that also fits elsewhere',
  severity: 'doubt',
  sum: 'sockets of the type of a plug without a key ≤ 1',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const plug = d.sensor?.plug;
      if (!plug || !c.logger) return [];
      const fits = c.logger.ports.filter(
        (p) => p.socket?.type === plug.type && !(plug.keyed && p.socket.keyed),
      );
      return fits.length < 2
        ? []
        : [
            found(
              `The plug of ${deviceName(d)} fits ${fits.map((p) => p.name).join(' and ')}, and nothing keeps it out of the wrong one.`,
              'Label plug and socket alike, and look at both when it is plugged in.',
              { devices: [d.plan.id], sum: `${fits.length} sockets > 1` },
            ),
          ];
    }),
});

export const hostNeeded = rule({
  id: 'host-needed',
  title: 'Accessory without its host',
  severity: 'fails',
  sum: 'leads that have to end in another sensor do',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((d) => {
      const label = d.sensor?.needsHost;
      if (!label) return [];
      const ids = new Set(d.leads.flatMap((l) => (l.host ? [l.host.device] : [])));
      const hosted = [...ids].some((id) => c.byId.get(id)?.sensor?.hosts.some((h) => h.label === label));
      if (hosted) return [];
      const hosts = c.devices.filter((x) => x.sensor?.hosts.some((h) => h.label === label));
      return [
        found(
          `The leads of ${deviceName(d)} have to end on ${label.toLowerCase()}, and do not.`,
          hosts.length
            ? `Land them in ${hosts.map((h) => h.plan.name).join(' or ')}.`
            : `Plan a sensor that has ${label.toLowerCase()}.`,
          { devices: [d.plan.id] },
        ),
      ];
    }),
});

export const hostFull = rule({
  id: 'host-full',
  title: 'Too many in one host',
  severity: 'fails',
  sum: 'sensors that end in a host place ≤ what it takes; their kind is one it takes; one lead a screw',
  source: practice,
  judge: (c) =>
    c.devices.flatMap((host) =>
      (host.sensor?.hosts ?? []).flatMap((place) => {
        const guests = c.devices.filter((d) =>
          d.leads.some(
            (l) => l.host?.device === host.plan.id && place.screws.some((s) => s.mark === l.host!.screw),
          ),
        );
        const unfit = guests.filter((d) => !(place.takes as readonly string[]).includes(d.kind ?? ''));
        const screws = guests.flatMap((d) =>
          d.leads.flatMap((l) => (l.host?.device === host.plan.id ? [l.host.screw] : [])),
        );
        const twice = screws.find((s, i) => screws.indexOf(s) !== i);
        const at = { devices: [host.plan.id, ...guests.map((g) => g.plan.id)] };
        return [
          ...(guests.length > place.most
            ? [
                found(
                  `${place.label} of ${deviceName(host)} take ${place.most}, ${guests.map((g) => g.plan.name).join(' and ')} end there.`,
                  'Give one of them another host or an input of its own.',
                  { ...at, sum: `${guests.length} > ${place.most}` },
                ),
              ]
            : []),
          ...unfit.map((d) =>
            found(
              `${deviceName(d)} is connected by ${d.kind ? connectionName(d.kind) : 'nobody knows what'}, ${place.label.toLowerCase()} of ${deviceName(host)} take ${place.takes.map(connectionName).join(', ')}.`,
              'Connect it to the logger itself.',
              at,
            ),
          ),
          ...(twice
            ? [found(`Two leads are on screw ${twice} of ${deviceName(host)}.`, 'One lead to a screw.', at)]
            : []),
        ];
      }),
    ),
});

export const channelsExceeded = rule({
  id: 'channels-exceeded',
  title: 'More outputs than channels',
  severity: 'fails',
  sum: 'outputs that get a channel ≤ channels of the logger',
  source: practice,
  judge: ({ logger, devices }) => {
    const n = devices.reduce((sum, d) => sum + d.plan.mapped.length, 0);
    return !logger || n <= logger.channels
      ? []
      : [
          found(
            `${n} outputs are to be recorded, ${logger.name} has ${logger.channels} channels.`,
            'Record fewer, or use a larger logger.',
            { sum: `${n} > ${logger.channels}` },
          ),
        ];
  },
});

export const outputUnmapped = rule({
  id: 'output-unmapped',
  title: 'Quantity that gets no channel',
  severity: 'doubt',
  sum: 'outputs of a sensor = outputs that get a channel',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const left = d.sensor?.outputs.filter((o) => !d.plan.mapped.includes(o.key)) ?? [];
      return left.length === 0
        ? []
        : [
            found(
              `${deviceName(d)} measures ${left.map((o) => outputInSentence(o)).join(', ')} and nothing records it.`,
              'Map it to a channel, or accept it with a reason.',
              {
                devices: [d.plan.id],
                sum: `${d.sensor!.outputs.length - left.length} of ${d.sensor!.outputs.length} mapped`,
              },
            ),
          ];
    }),
});

export const excluded = rule({
  id: 'accessory-excluded',
  title: 'Sensors that exclude each other',
  severity: 'fails',
  sum: 'quantities that a built-in sensor keeps for itself are measured by no other on this logger',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) =>
      (d.sensor?.excludes ?? []).flatMap((quantity) =>
        devices
          .filter((o) => o !== d && o.sensor?.outputs.some((x) => x.quantity === quantity))
          .map((o) =>
            found(
              `${deviceName(d)} has ${inSentence(quantity)} built in: the logger takes no other, and ${deviceName(o)} is one.`,
              'Leave one of them out.',
              { devices: [d.plan.id, o.plan.id] },
            ),
          ),
      ),
    ),
});
