/** What a logger holds of itself, beside its channels. */
export interface OwnSettings {
  /** As it stands in its files: what a read-out is told apart by. */
  readonly stationId: string;
  readonly name: string;
  /** Terminals of external sensors that it was told to listen to. */
  readonly activated: readonly string[];
}

/** What of itself a logger can be told. */
export interface OwnAbilities {
  /** Characters it keeps. */
  readonly idLength: number;
  readonly nameLength: number;
  /** Terminals to which it is deaf until they are activated, whatever their channels are set to. */
  readonly activates: readonly string[];
}

export const ownFields = ['stationId', 'name', 'activated'] as const satisfies readonly (keyof OwnSettings)[];
export type OwnField = (typeof ownFields)[number];
export const ownFieldNames: Readonly<Record<OwnField, string>> = {
  stationId: 'station ID',
  name: 'name',
  activated: 'activated terminals',
};

export const ownText = (own: OwnSettings, field: OwnField): string =>
  field === 'activated' ? [...own.activated].sort().join(', ') || 'none' : own[field];

export interface OwnDifference {
  readonly field: OwnField;
  readonly wanted: string;
  readonly found: string;
}

/**
 * Where what a logger holds of itself is not what was meant.
 *
 * @example ownDifferences({ stationId: 'HUT-2', name: 'Hut', activated: ['PU'] }, { stationId: 'HUT-2', name: 'Hut', activated: [] }) // [{ field: 'activated', wanted: 'PU', found: 'none' }]
 */
export const ownDifferences = (wanted: OwnSettings, found: OwnSettings): OwnDifference[] =>
  ownFields
    .map((field) => ({ field, wanted: ownText(wanted, field), found: ownText(found, field) }))
    .filter((d) => d.wanted !== d.found);

/** Why a logger cannot take it; null where it can. */
export function refuseOwn(
  own: OwnSettings,
  takes: OwnAbilities,
): {
  readonly field: OwnField;
  readonly value: string;
  readonly detail: string;
  readonly remedy: string;
} | null {
  const { stationId, name, activated } = own;
  if (!/^[A-Za-z0-9-]+$/.test(stationId))
    return {
      field: 'stationId',
      value: stationId,
      detail: `The station ID "${stationId}" ends up in file names.`,
      remedy: 'Use letters, digits and hyphens.',
    };
  for (const [field, text, most] of [
    ['stationId', stationId, takes.idLength],
    ['name', name, takes.nameLength],
  ] as const)
    if (text.length > most)
      return {
        field,
        value: text,
        detail: `The logger keeps ${most} characters of its ${ownFieldNames[field]}; "${text}" has ${text.length}.`,
        remedy: 'Shorten it, so that what it keeps is what was meant.',
      };
  const deaf = activated.find((t) => !takes.activates.includes(t));
  return deaf === undefined
    ? null
    : {
        field: 'activated',
        value: deaf,
        detail: `Terminal ${deaf} is not one that this logger has to be told to listen to.`,
        remedy: takes.activates.length > 0 ? `Choose from ${takes.activates.join(', ')}.` : 'Leave it out.',
      };
}

/**
 * What a logger is offered to be told of itself: its station's code and name as far as it keeps them, and those
 * terminals to listen to on which something hangs.
 *
 * @param hangs terminals on which a lead is
 * @example proposedOwn({ code: 'HUT-2', name: 'Inner bog hut' }, { idLength: 8, nameLength: 9, activates: ['PU'] }, ['T1', 'PU']) // { stationId: 'HUT-2', name: 'Inner bog', activated: ['PU'] }
 */
export const proposedOwn = (
  station: { readonly code: string; readonly name: string },
  takes: OwnAbilities,
  hangs: readonly string[],
): OwnSettings => ({
  stationId: station.code.slice(0, takes.idLength),
  name: station.name.slice(0, takes.nameLength).trimEnd(),
  activated: takes.activates.filter((t) => hangs.includes(t)),
});
