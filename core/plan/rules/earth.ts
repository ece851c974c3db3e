import { isDifferential } from '../../device/channelInput';
import { deviceName } from '../context';
import { found, practice, rule } from '../rule';

/** Shields and earths. Two schools earth a shield at the logger or at the sensor; both earth it once. */
const shieldOf = (d: Parameters<typeof deviceName>[0]) => d.leads.find((l) => l.signal === 'shield') ?? null;

export const secondEarth = rule({
  id: 'shield-two-ends',
  title: 'Shield earthed at both ends',
  severity: 'doubt',
  sum: 'ends of a shield that are earthed ≤ 1: a second earth carries the current between them',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const shield = shieldOf(d);
      return !shield?.terminal || !d.plan.earthedAtSensor
        ? []
        : [
            found(
              `The shield of ${deviceName(d)} is on ${shield.terminal.terminal.label} and earthed at the sensor too.`,
              'Lift it at one end, the sensor’s as a rule; then insulate it there.',
              { devices: [d.plan.id], terminals: [shield.terminal.terminal.label], sum: '2 earths > 1' },
            ),
          ];
    }),
});

export const openShield = rule({
  id: 'shield-open',
  title: 'Shield earthed nowhere',
  severity: 'hint',
  sum: 'ends of a shield that are earthed ≥ 1',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      const shield = shieldOf(d);
      return !shield || shield.terminal || shield.host || d.plan.earthedAtSensor
        ? []
        : [
            found(
              `The shield of ${deviceName(d)} ends nowhere: it collects what it should keep out.`,
              'Land it at the logger, on a shield or ground terminal.',
              { devices: [d.plan.id], sum: '0 earths < 1' },
            ),
          ];
    }),
});

export const differentEarths = rule({
  id: 'earths-differ',
  title: 'Single input over two earths',
  severity: 'doubt',
  sum: 'earth of a sensor’s ground lead = earth its input measures against',
  source: practice,
  judge: ({ devices }) =>
    devices.flatMap((d) => {
      if (!d.sensor || isDifferential(d.sensor.connection)) return [];
      const input = d.leads.find((l) => l.ability?.does === 'analog' || l.ability?.does === 'current');
      const ground = d.leads.find(
        (l) => (l.signal === 'supply−' || l.signal === 'common') && l.ability?.does === 'ground',
      );
      if (
        !input?.ability ||
        (input.ability.does !== 'analog' && input.ability.does !== 'current') ||
        ground?.ability?.does !== 'ground' ||
        ground.ability.reference === input.ability.reference
      )
        return [];
      return [
        found(
          `${deviceName(d)} is grounded to ${ground.ability.reference} and measured against ${input.ability.reference}: what flows between them is added to the signal.`,
          `Land its ${ground.colour} lead on a terminal of ${input.ability.reference}, or measure between two leads.`,
          {
            devices: [d.plan.id],
            terminals: [input.terminal!.terminal.label, ground.terminal!.terminal.label],
            sum: `${ground.ability.reference} ≠ ${input.ability.reference}`,
          },
        ),
      ];
    }),
});

export const mainsLogic = rule({
  id: 'mains-logic',
  title: 'Logic that may sit at mains potential',
  severity: 'stops',
  sum: 'a board whose logic is not isolated from the mains is wired only when somebody licensed isolated it and proved it dead',
  source: `${practice}; local codes and licensed practice go first`,
  judge: ({ devices }) =>
    devices.flatMap((d) =>
      !d.board?.mains || d.plan.isolatedBy !== null
        ? []
        : [
            found(
              `The logic pins of ${deviceName(d)} may sit at mains potential: no lead, and no computer on this controller, while it is live.`,
              'Have licensed people isolate it and prove it dead, and note who did; better, use a board with isolation.',
              {
                devices: [d.plan.id],
                terminals: d.leads.flatMap((l) => (l.terminal ? [l.terminal.terminal.label] : [])),
              },
            ),
          ],
    ),
});
